<script setup lang="ts">
/** What a kit search goes over: the target, and for each kind of part which units and how many. */
import { storeToRefs } from 'pinia'
import { computed, ref, watch } from 'vue'

import { api, outcome, type KitPlan, type KitRanges } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import { useDesign } from '@/design/store'
import ChoiceField from '@/fields/ChoiceField.vue'
import QuantityField from '@/fields/QuantityField.vue'
import { asPercent, plain, volume } from '@/fields/units'
import { count, hours, percent } from '@/shared/format'

import KitPart from './KitPart.vue'
import { useKits } from './kits'

type PartName = 'batteries' | 'inverters' | 'panels' | 'fuel'
type Part<Name extends PartName> = NonNullable<KitRanges[Name]>

const TIERS = [
  { value: 'keep', title: 'Life and Keep' },
  { value: 'life', title: 'Life alone' },
]
const design = useDesign()
const { id, document, revision, isDirty } = storeToRefs(design)
const store = useKits()
const { ranges, found } = storeToRefs(store)
/** Parts that were switched off, so that switching them on again brings them back. */
const put = ref<Partial<KitRanges>>({})
const usual = ref<KitRanges | null>(null)

const arrays = computed(() =>
  (document.value?.charging.controllers ?? []).flatMap((controller) =>
    (controller.arrays ?? []).map((array) => ({ value: array.id, title: array.name })),
  ),
)
const hasGenerator = computed(() => document.value?.charging.generator != null)
const fuelUnit = computed(() => (document.value ? volume(document.value) : plain('L')))

const find = {
  batteries: (words: string) => outcome(api.GET('/api/library/battery', { params: { query: { words } } })),
  inverters: (words: string) => outcome(api.GET('/api/library/inverter', { params: { query: { words } } })),
  panels: (words: string) => outcome(api.GET('/api/library/module', { params: { query: { words } } })),
}

const {
  value: plan,
  trouble,
  askNow,
} = useAnswer<KitPlan>({
  ask: () =>
    ranges.value
      ? outcome(
          api.POST('/api/designs/{design_id}/kit-searches/plan', {
            params: { path: { design_id: id.value } },
            body: ranges.value,
          }),
        )
      : null,
  on: [ranges, revision],
  wait: 150,
})
watch(id, () => {
  put.value = {}
  usual.value = null
  void askNow()
})
/** The fields are put away while a search is looked at. */
const isOpen = ref(false)
watch(
  () => found.value?.search.id,
  (shown) => (isOpen.value = shown === undefined),
  { immediate: true },
)
const summary = computed(() => {
  const asked = ranges.value
  if (!asked) return ''
  const some = (
    units: readonly unknown[],
    [one, many]: readonly [string, string],
    least: number,
    most: number,
  ) => `${units.length} ${units.length === 1 ? one : many} × ${least === most ? most : `${least} to ${most}`}`
  const { batteries, inverters, panels, fuel } = asked
  return [
    `${percent(asked.target.share_frac)} of the year’s hours, ${hours(asked.target.hours_h)}`,
    batteries && some(batteries.units, ['battery', 'batteries'], batteries.least, batteries.most),
    inverters && some(inverters.units, ['inverter', 'inverters'], inverters.least, inverters.most),
    panels && some(panels.units, ['panel', 'panels'], panels.least, panels.most),
    fuel && `${fuel.stock_l.length} stocks of fuel`,
  ]
    .filter(Boolean)
    .join('; ')
})
const canAsk = computed(() => plan.value !== null && !trouble.value && !isDirty.value)

function set<Name extends keyof KitRanges>(name: Name, part: KitRanges[Name]): void {
  if (ranges.value) ranges.value = { ...ranges.value, [name]: part }
}
function change<Name extends PartName>(name: Name, fields: Partial<Part<Name>>): void {
  const part = ranges.value?.[name]
  if (part) set(name, { ...part, ...fields } as KitRanges[Name])
}
async function vary(name: PartName, isOn: boolean): Promise<void> {
  if (!ranges.value) return
  if (!isOn) {
    put.value = { ...put.value, [name]: ranges.value[name] }
    set(name, null)
    return
  }
  usual.value ??= await store.answered(
    outcome(
      api.GET('/api/designs/{design_id}/kit-searches/usual', { params: { path: { design_id: id.value } } }),
    ),
  )
  set(name, put.value[name] ?? usual.value?.[name] ?? null)
}

// --- fuel: stocks from, to, and by how much more each

const stocks = computed(() => [...(ranges.value?.fuel?.stock_l ?? [])].sort((a, b) => a - b))
const step_l = computed(() => (stocks.value[1] ?? stocks.value[0] ?? 0) - (stocks.value[0] ?? 0))
const MOST_STOCKS = 20
function setStocks(from_l: number, to_l: number, by_l: number): void {
  const steps = by_l > 0 ? Math.min(Math.floor((to_l - from_l) / by_l + 1e-9), MOST_STOCKS - 1) : 0
  change('fuel', { stock_l: Array.from({ length: Math.max(steps, 0) + 1 }, (_, at) => from_l + at * by_l) })
}
</script>

<template>
  <p v-if="ranges && !isOpen" class="summary" data-test="kit-summary">
    {{ summary }}
    <button type="button" aria-expanded="false" data-test="open-form" @click="isOpen = true">
      Change what is tried
    </button>
  </p>
  <div v-else-if="ranges" class="form" data-test="kit-form">
    <div class="row">
      <span class="name">Carries</span>
      <ChoiceField
        label="Who is carried"
        :value="ranges.target.lowest_tier"
        :choices="TIERS"
        @change="set('target', { ...ranges.target, lowest_tier: $event as 'keep' | 'life' })"
      />
      <QuantityField
        label="For so long"
        :value="ranges.target.hours_h"
        unit="h"
        whole
        data-test="kit-hours"
        @change="set('target', { ...ranges.target, hours_h: $event ?? ranges.target.hours_h })"
      />
      <QuantityField
        label="Share of hours"
        :value="ranges.target.share_frac"
        :unit="asPercent"
        @change="set('target', { ...ranges.target, share_frac: $event ?? ranges.target.share_frac })"
      />
    </div>
    <KitPart
      name="Batteries"
      counted="Strings"
      :part="ranges.batteries ?? null"
      :find="find.batteries"
      off="as the design has them"
      @vary="vary('batteries', $event)"
      @change="change('batteries', $event)"
    />
    <KitPart
      name="Inverters"
      counted="Together"
      :part="ranges.inverters ?? null"
      :find="find.inverters"
      off="as the design has them"
      @vary="vary('inverters', $event)"
      @change="change('inverters', $event)"
    />
    <KitPart
      name="Panels"
      counted="Panels"
      :part="ranges.panels ?? null"
      :find="find.panels"
      :off="arrays.length ? 'as the design has them' : 'the design has no array on a controller'"
      :disabled="!arrays.length"
      @vary="vary('panels', $event)"
      @change="change('panels', $event)"
    >
      <ChoiceField
        v-if="ranges.panels && arrays.length > 1"
        class="array"
        label="On the array"
        :value="ranges.panels.array_id"
        :choices="arrays"
        @change="change('panels', { array_id: $event })"
      />
    </KitPart>
    <div v-if="hasGenerator" class="row fuel">
      <label class="name"
        ><input
          type="checkbox"
          :checked="ranges.fuel != null"
          data-test="vary-fuel"
          @change="vary('fuel', ($event.target as HTMLInputElement).checked)"
        />
        Fuel</label
      >
      <template v-if="ranges.fuel">
        <QuantityField
          :label="`Price of a ${fuelUnit.label === 'gal' ? 'gallon' : 'litre'}, with its can`"
          :value="fuelUnit.label === 'gal' ? fuelUnit.keep(ranges.fuel.price_per_l) : ranges.fuel.price_per_l"
          @change="
            change('fuel', {
              price_per_l: fuelUnit.label === 'gal' ? fuelUnit.show($event ?? 0) : ($event ?? 0),
            })
          "
        />
        <QuantityField
          label="Stock, from"
          :value="stocks[0] ?? 0"
          :unit="fuelUnit"
          @change="setStocks($event ?? 0, Math.max($event ?? 0, stocks.at(-1) ?? 0), step_l)"
        />
        <QuantityField
          label="to"
          :value="stocks.at(-1) ?? 0"
          :unit="fuelUnit"
          @change="setStocks(stocks[0] ?? 0, $event ?? 0, step_l || ($event ?? 0) - (stocks[0] ?? 0))"
        />
        <QuantityField
          label="by"
          :value="step_l"
          :unit="fuelUnit"
          @change="setStocks(stocks[0] ?? 0, stocks.at(-1) ?? 0, $event ?? 0)"
        />
      </template>
      <span v-else class="lesser">as the design has it</span>
    </div>
    <div class="act">
      <v-btn
        variant="flat"
        color="pine"
        :disabled="!canAsk || found?.search.is_live === true"
        data-test="search-kits"
        @click="store.ask()"
        >{{
          plan && !trouble ? `Try ${count(plan.kits)} ${plan.kits === 1 ? 'kit' : 'kits'}` : 'Try the kits'
        }}</v-btn
      >
      <p v-if="trouble" class="bad" role="alert" data-test="plan-trouble">{{ trouble }}</p>
      <template v-else-if="plan">
        <p v-for="note in plan.assumed" :key="note" class="lesser">{{ note }}</p>
        <p v-if="plan.left_out.length" class="lesser" data-test="left-out">
          Left out:
          {{
            plan.left_out
              .slice(0, 3)
              .map((entry) => entry.why + (entry.count > 1 ? ` (${count(entry.count)})` : ''))
              .join('; ')
          }}{{ plan.left_out.length > 3 ? `; and ${plan.left_out.length - 3} more reasons` : '' }}.
        </p>
      </template>
    </div>
  </div>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: 96px minmax(180px, 1fr) 108px 108px;
  gap: 4px 12px;
  align-items: end;
  padding-bottom: 8px;
}

.row > .lesser {
  align-self: center;
}

.fuel {
  grid-template-columns: 96px minmax(120px, 1fr) repeat(3, 92px);
}

.array {
  grid-column: 2;
}

.name {
  align-self: center;
  font-weight: 600;
}

.name input {
  accent-color: var(--pine);
}

.summary {
  margin: 0 0 6px;
}

.summary button {
  margin-left: 8px;
  color: var(--pine);
  font-weight: 700;
  text-decoration: underline;
  text-underline-offset: 2px;
}

.act {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  align-items: center;
  margin-bottom: 10px;
}

.act p {
  margin: 0;
  flex: 1;
  min-width: 220px;
}

.bad {
  color: var(--wine);
  font-weight: 700;
}

@media (max-width: 700px) {
  .row,
  .fuel {
    grid-template-columns: 1fr 1fr;
  }

  .name,
  .row > :nth-child(2) {
    grid-column: 1 / -1;
  }
}
</style>
