<script setup lang="ts">
/** Have against need: the kit as designed, part by part, against what each method and the model ask for. */
import { computed } from 'vue'

import type { Have } from '@/api/client'
import { kilowattHours, kilowatts, count } from '@/shared/format'
import WideTable from '@/shared/WideTable.vue'

const props = defineProps<{ have: Have }>()
const askers = computed(() => props.have.parts[0]?.needs ?? [])
const WORD = { short: 'short', right: 'right', over: 'over', never: 'none does' } as const

function text(value: number | null | undefined, unit: string): string {
  if (value == null) return '–'
  if (unit === 'Wh') return kilowattHours(value)
  if (unit === 'W') return kilowatts(value)
  return `${count(value)} ${unit}`
}
</script>

<template>
  <div>
    <p class="lesser basis">
      What the design has, against what each would ask for, before the next size sold. “Over” is more than
      half as much again. {{ have.basis }}
    </p>
    <WideTable label="Have against need">
      <table class="ledger have" data-test="have">
        <thead>
          <tr>
            <th scope="col">Part</th>
            <th scope="col" class="number">Have</th>
            <th v-for="need in askers" :key="need.by" scope="col" class="number">{{ need.title }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="part in have.parts" :key="part.key" :data-test="`have-${part.key}`">
            <th scope="row">{{ part.label }}</th>
            <td class="number">
              <b>{{ part.have ? text(part.have, part.unit) : 'none' }}</b>
            </td>
            <td
              v-for="need in part.needs"
              :key="need.by"
              class="number"
              :data-test="`need-${part.key}-${need.by}`"
            >
              {{ text(need.asked, part.unit) }}
              <span class="fit" :class="need.fit">{{ WORD[need.fit] }}</span>
            </td>
          </tr>
        </tbody>
      </table>
    </WideTable>
  </div>
</template>

<style scoped>
.basis {
  max-width: 96ch;
  margin: 0 0 8px;
}

.have {
  min-width: 760px;
  table-layout: fixed;
}

.have thead th.number {
  vertical-align: bottom;
  white-space: normal;
  line-height: 1.2;
}

td {
  white-space: nowrap;
  padding-top: 6px;
  padding-bottom: 6px;
}

.have th:first-child {
  width: 76px;
}

.fit {
  white-space: normal;
  display: block;
  font-size: 12.5px;
  font-weight: 700;
}

.short,
.never {
  color: var(--wine);
}

.right {
  color: var(--pine);
}

.over {
  color: var(--ember-ink);
}
</style>
