<script setup lang="ts">
/** How a row's watts and start are known. The figures are worked out by the server and come back with their working. */
import { computed } from 'vue'

import type { Known, Load, StartKnown } from '@/api/client'
import FigureSheet from '@/figures/FigureSheet.vue'

import { blankReading, blankStart, CODE_LETTERS, QUALITIES, READING_KINDS, START_KINDS } from './readings'
import ChoiceField from '@/fields/ChoiceField.vue'
import QuantityField from '@/fields/QuantityField.vue'
import { asPercent } from '@/fields/units'
import SpeedSettings from './SpeedSettings.vue'
import { useMeasuring } from './useMeasuring'

const props = defineProps<{ load: Load; mains_v: number; bank_v: number }>()
const emit = defineEmits<{ change: [part: Partial<Load>] }>()
const { take: measure, explain, trouble, figures } = useMeasuring((part) => emit('change', part))
const take = (part: { known?: Known; start_known?: StartKnown }) => measure(props.load, part)

const known = computed<Known>(() => props.load.known ?? { kind: 'typed', quality: 'guess' })
const start = computed<StartKnown>(() => props.load.start_known ?? { kind: 'typed', quality: 'guess' })
const kind = computed(() => READING_KINDS.find((entry) => entry.value === known.value.kind))
const knownFields = computed(() =>
  (kind.value?.fields ?? []).filter((field) => !field.onlyAc || props.load.supply?.startsWith('ac')),
)
const startKind = computed(() => START_KINDS.find((entry) => entry.value === start.value.kind))

const valueOf = (part: object, key: string) => (part as Record<string, number>)[key] ?? 0
const percentOf = (part: object, key: string) => {
  const frac = (part as Record<string, number | null>)[key]
  return frac == null ? null : asPercent.show(frac)
}
const setKnown = (key: string, value: unknown) => take({ known: { ...known.value, [key]: value } as Known })
const setStart = (key: string, value: unknown) =>
  take({ start_known: { ...start.value, [key]: value } as StartKnown })
</script>

<template>
  <div class="reading" data-test="reading-editor">
    <div class="line">
      <ChoiceField
        class="kind"
        label="Watts known by"
        :value="known.kind"
        :choices="READING_KINDS"
        data-test="known-kind"
        @change="(value: string) => take({ known: blankReading(value, load, mains_v, bank_v) })"
      />
      <QuantityField
        v-for="field in knownFields"
        :key="field.key"
        :label="field.label"
        :unit="field.unit"
        :value="field.onlyAc ? percentOf(known, field.key) : valueOf(known, field.key)"
        :may-be-empty="!!field.onlyAc"
        :empty-means="field.onlyAc ? 'usual' : ''"
        :data-test="`known-${field.key}`"
        @change="
          (value) => setKnown(field.key, field.onlyAc && value !== null ? asPercent.keep(value) : value)
        "
      />
      <ChoiceField
        v-if="known.kind === 'typed' || known.kind === 'speeds'"
        label="The figure is"
        :value="known.quality"
        :choices="QUALITIES"
        data-test="known-quality"
        @change="(value: string) => setKnown('quality', value)"
      />
    </div>
    <SpeedSettings
      v-if="known.kind === 'speeds'"
      :table="known"
      @change="(table) => take({ known: table })"
    />
    <div class="line">
      <ChoiceField
        class="kind"
        label="Start known by"
        :value="start.kind"
        :choices="START_KINDS"
        data-test="start-kind"
        @change="(value: string) => take({ start_known: blankStart(value) })"
      />
      <ChoiceField
        v-if="start.kind === 'code'"
        label="Code letter"
        :value="start.code_letter"
        :choices="CODE_LETTERS"
        @change="(value: string) => setStart('code_letter', value)"
      />
      <QuantityField
        v-for="field in startKind?.fields"
        :key="field.key"
        :label="field.label"
        :unit="field.unit"
        :value="valueOf(start, field.key)"
        :data-test="`start-${field.key}`"
        @change="(value) => setStart(field.key, value)"
      />
      <ChoiceField
        v-if="start.kind === 'typed'"
        label="The start is"
        :value="start.quality"
        :choices="QUALITIES"
        @change="(value: string) => setStart('quality', value)"
      />
      <button type="button" class="how" data-test="show-working" @click="explain(load)">
        Show the working
      </button>
    </div>
    <p v-if="trouble" class="trouble" role="alert">{{ trouble }}</p>
    <div v-if="figures.length" class="figures-shown">
      <FigureSheet v-for="figure in figures" :key="figure.label" :figure="figure" />
    </div>
  </div>
</template>

<style scoped>
.line {
  display: grid;
  grid-template-columns: 226px repeat(3, minmax(0, 122px)) auto;
  gap: 8px;
  align-items: end;
  margin-bottom: 6px;
}

.how {
  color: var(--pine);
  font-weight: 600;
  justify-self: start;
  padding: 6px 0;
}

.how:hover {
  text-decoration: underline;
}

.trouble {
  margin: 0 0 6px;
  color: var(--wine);
}

.figures-shown {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(220px, 1fr));
  gap: 18px;
  font-size: 13px;
}
</style>
