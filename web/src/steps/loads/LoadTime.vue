<script setup lang="ts">
/** When a load runs beyond its painted hours: waiting for the sun, away, dark days, the seasons. */
import { storeToRefs } from 'pinia'
import { computed, ref, useId } from 'vue'

import type { Load } from '@/api/client'
import { useDesign } from '@/design/store'
import FieldFrame from '@/fields/FieldFrame.vue'
import { LONGEST_NAME } from '@/fields/limits'
import { commasOf } from '@/fields/numbers'
import { readQuantity } from '@/fields/quantity'

import ChoiceField from '@/fields/ChoiceField.vue'
import QuantityField from '@/fields/QuantityField.vue'

const props = defineProps<{ load: Load; fault: boolean }>()
const emit = defineEmits<{ change: [part: Partial<Load>] }>()
const id = useId()
const MONTHS = ['J', 'F', 'M', 'A', 'M', 'J', 'J', 'A', 'S', 'O', 'N', 'D']
const MONTH_NAMES = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
]
const darkDays = [
  { value: 'keep', title: 'runs' },
  { value: 'drop', title: 'is dropped' },
  { value: 'substitute', title: 'is replaced' },
]
const away = [
  { value: false, title: 'runs on' },
  { value: true, title: 'stands still' },
]
const factors = computed(() => props.load.month_factors ?? Array.from({ length: 12 }, () => 1))

/** What is wrong with a month as it was typed; the text stays. */
const wrongMonth = ref('')
const { document } = storeToRefs(useDesign())

function setMonth(month: number, event: Event): void {
  const input = event.target as HTMLInputElement
  const typed = readQuantity(input.value, commasOf(document.value?.practice), '%')
  const part = (typed.value ?? -1) / 100
  const isPart = part >= 0 && part <= 1
  wrongMonth.value = isPart
    ? ''
    : `${MONTH_NAMES[month]} needs a percentage of 0 to 100 (got '${input.value.slice(0, 20)}')`
  if (!isPart) return
  const next = factors.value.map((factor, at) => (at === month ? part : factor))
  emit('change', { month_factors: next.every((factor) => factor === 1) ? null : next })
}
</script>

<template>
  <div class="time">
    <QuantityField
      label="Any hours, sun allowing"
      :value="load.flexible_h ?? null"
      unit="h"
      empty-means="all"
      may-be-empty
      :fault="fault"
      data-test="flexible"
      title="It waits for the sun: so many of its painted hours a day, in which the sun alone carries it"
      @change="(value) => emit('change', { flexible_h: value })"
    />
    <ChoiceField
      label="Nobody home: it"
      name="When nobody is home it"
      :value="load.stops_when_away"
      :choices="away"
      @change="(value: boolean) => emit('change', { stops_when_away: value })"
    />
    <ChoiceField
      label="Dark day: it"
      name="On a dark day it"
      :value="load.dark_day"
      :choices="darkDays"
      data-test="dark-day"
      @change="(value: Load['dark_day']) => emit('change', { dark_day: value })"
    />
    <template v-if="load.dark_day === 'substitute'">
      <FieldFrame label="Replaced by" :for="`${id}-by`">
        <v-text-field
          :id="`${id}-by`"
          class="words"
          :model-value="load.substitute_name ?? ''"
          placeholder="gas ring"
          :maxlength="LONGEST_NAME"
          @change="
            (event: Event) =>
              emit('change', { substitute_name: (event.target as HTMLInputElement).value.trim() || null })
          "
        />
      </FieldFrame>
      <QuantityField
        label="which takes"
        unit="W"
        :value="load.substitute_w"
        @change="(value) => emit('change', { substitute_w: value ?? 0 })"
      />
    </template>
    <div class="months" role="group" aria-label="Part of its duty in each month, in percent">
      <span class="title">Duty by month, %</span>
      <label v-for="(factor, month) in factors" :key="month">
        <span aria-hidden="true">{{ MONTHS[month] }}</span>
        <input
          class="figures"
          inputmode="numeric"
          maxlength="5"
          :value="Math.round(factor * 1000) / 10"
          :aria-label="`Part in ${MONTH_NAMES[month]}, percent`"
          @change="(event) => setMonth(month, event)"
        />
      </label>
      <span v-if="wrongMonth" class="wrong" role="alert">{{ wrongMonth }}</span>
    </div>
  </div>
</template>

<style scoped>
.time {
  display: grid;
  grid-template-columns: 150px 126px 132px minmax(0, 1fr) 100px;
  gap: 8px;
  align-items: end;
}

.months {
  grid-column: 1 / -1;
  display: flex;
  align-items: end;
  gap: 3px;
  font-size: 12.5px;
  color: var(--slate);
}

.months .title {
  width: 150px;
  padding-bottom: 4px;
}

.wrong {
  color: var(--wine);
  font-size: 13px;
}

.months label {
  text-align: center;
}

.months span {
  display: block;
}

.months input {
  width: 38px;
  text-align: center;
  color: var(--ink);
  border: 1px solid var(--rule);
  background: var(--sheet);
  padding: 2px 0;
}
</style>
