<script setup lang="ts">
/** One load in front of the meter: what kind of look, what it shows, keep it, and on to the next. */
import { computed, ref, watch } from 'vue'

import type { Known, Load, Tier } from '@/api/client'
import { amount } from '@/shared/format'

import { blankReading, QUALITY_MARKS, READING_KINDS } from '../readings'
import { TIERS } from '../tiers'
import { useMeasuring } from '../useMeasuring'
import KeyPad from './KeyPad.vue'

const props = defineProps<{
  load: Load
  quality: string
  mains_v: number
  bank_v: number
  /** Name of the load that comes next; empty for none. */
  nextName: string
}>()
const emit = defineEmits<{ change: [part: Partial<Load>]; next: []; back: [] }>()
const { take, trouble } = useMeasuring((part) => emit('change', part))

/** The looks that a meter or a plate in the house gives, the quickest first; a plug-in meter does not fit direct current. */
const looks = computed(() =>
  (props.load.supply.startsWith('ac')
    ? ['spot', 'meter', 'nameplate', 'label']
    : ['dc_amps', 'nameplate']
  ).flatMap((value) => READING_KINDS.filter((entry) => entry.value === value)),
)
const kind = ref('spot')
const look = computed(() => looks.value.find((entry) => entry.value === kind.value) ?? looks.value[0])
/** The look it was measured by; a plate is not taken for one, since a meter is at hand. */
const metered = computed(() => ['spot', 'meter', 'dc_amps'].find((value) => value === props.load.known?.kind))
/** Parts shown in percent are for the desk. */
const fields = computed(() => (look.value?.fields ?? []).filter((field) => !field.onlyAc))
/** What was keyed in, by field; what was not stays as it is proposed. */
const keyed = ref<Record<string, string>>({})
const active = ref('')
const proposed = computed(() => {
  const known = props.load.known?.kind === kind.value ? props.load.known : null
  return (known ?? blankReading(kind.value, props.load, props.mains_v, props.bank_v)) as Record<
    string,
    unknown
  >
})

watch(
  [() => props.load.id, kind],
  ([id], [before]) => {
    if (id !== before) kind.value = metered.value ?? looks.value[0]?.value ?? 'spot'
    keyed.value = {}
    active.value = fields.value[0]?.key ?? ''
    trouble.value = ''
  },
  { immediate: true },
)

const shown = (key: string) => keyed.value[key] ?? amount(Number(proposed.value[key] ?? 0))

function press(key: string): void {
  const text = keyed.value[active.value] ?? ''
  const next = key === '⌫' ? text.slice(0, -1) : key === '.' && text.includes('.') ? text : text + key
  keyed.value = { ...keyed.value, [active.value]: next.slice(0, 8) }
}

function type(key: string, event: Event): void {
  keyed.value = { ...keyed.value, [key]: (event.target as HTMLInputElement).value.slice(0, 8) }
}

async function keep(): Promise<void> {
  const typed = Object.entries(keyed.value).filter(([, text]) => text !== '')
  const wrong = typed.find(([, text]) => !Number.isFinite(Number(text)))
  if (wrong) {
    trouble.value = `needs a number (got '${wrong[1]}')`
    return
  }
  const known = { ...proposed.value, ...Object.fromEntries(typed.map(([key, text]) => [key, Number(text)])) }
  if (await take(props.load, { known: known as unknown as Known })) emit('next')
}

function setTier(tier: Tier): void {
  if (tier !== props.load.tier) emit('change', { tier })
}
</script>

<template>
  <section class="row" :aria-label="load.name" data-test="walk-row">
    <button type="button" class="back" data-test="walk-back" @click="emit('back')">← All loads</button>
    <h2>{{ load.name }}</h2>
    <p class="lesser">
      now <span class="figures">{{ QUALITY_MARKS[quality]?.sign }} {{ amount(load.running_w) }} W</span>,
      {{ QUALITY_MARKS[quality]?.word
      }}{{ load.duty_frac < 1 ? `, runs ${amount(load.duty_frac * 100)} % of its hours` : '' }}
    </p>
    <div class="choices looks" role="group" aria-label="Kind of reading">
      <button
        v-for="entry in looks"
        :key="entry.value"
        type="button"
        :aria-pressed="kind === entry.value"
        :data-test="`look-${entry.value}`"
        @click="kind = entry.value"
      >
        {{ entry.title }}
      </button>
    </div>
    <div class="readings">
      <label v-for="field in fields" :key="field.key" :class="{ active: active === field.key }">
        <span>{{ field.label }}</span>
        <input
          class="figures"
          inputmode="none"
          autocomplete="off"
          :value="shown(field.key)"
          :data-test="`walk-${field.key}`"
          @focus="active = field.key"
          @input="type(field.key, $event)"
          @keydown.enter="keep"
        />
        <span class="unit">{{ field.unit }}</span>
      </label>
    </div>
    <p v-if="trouble" class="trouble" role="alert">{{ trouble }}</p>
    <KeyPad @key="press" />
    <div class="ends">
      <button type="button" class="keep" data-test="walk-keep" @click="keep">
        Keep{{ nextName ? ', then ' : '' }}<b v-if="nextName">{{ nextName }}</b>
      </button>
      <button v-if="nextName" type="button" data-test="walk-skip" @click="emit('next')">Skip</button>
    </div>
    <div class="choices" role="group" aria-label="Tier">
      <button
        v-for="entry in TIERS"
        :key="entry.tier"
        type="button"
        :aria-pressed="load.tier === entry.tier"
        @click="setTier(entry.tier)"
      >
        {{ entry.title }}
      </button>
    </div>
  </section>
</template>

<style scoped>
.row {
  display: grid;
  gap: 8px;
}

.row > p {
  margin: 0;
}

h2 {
  font-size: 20px;
  overflow-wrap: anywhere;
}

.back {
  justify-self: start;
  min-height: 40px;
  color: var(--pine);
  font-weight: 600;
}

.choices {
  display: grid;
  grid-template-columns: repeat(4, minmax(0, 1fr));
  gap: 6px;
}

.looks {
  grid-template-columns: repeat(2, minmax(0, 1fr));
}

.choices button,
.ends button {
  min-height: 46px;
  padding: 4px 6px;
  border: 1px solid var(--slate);
  background: var(--sheet);
  line-height: 1.2;
}

.choices [aria-pressed='true'] {
  border: 2px solid var(--ember);
  font-weight: 700;
}

.readings {
  display: grid;
  gap: 6px;
}

label {
  display: grid;
  grid-template-columns: 104px minmax(0, 1fr) 44px;
  gap: 8px;
  align-items: center;
  min-height: 48px;
  padding: 0 8px;
  border: 1px solid var(--rule);
  background: var(--sheet);
}

label.active {
  border: 2px solid var(--pine);
}

label input {
  width: 100%;
  min-height: 44px;
  font-size: 24px;
  text-align: right;
  color: inherit;
  background: transparent;
}

label input:focus {
  outline: none;
}

.unit {
  color: var(--slate);
}

.trouble {
  color: var(--wine);
}

.ends {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 6px;
}

.ends .keep {
  grid-column: 1;
  color: var(--sheet);
  background: var(--pine);
  border-color: var(--pine);
  overflow-wrap: anywhere;
}

.ends button:last-child:not(.keep) {
  min-width: 78px;
}
</style>
