<script setup lang="ts">
/** What could be done about one load, priced in hours; the design changes only when something is taken. */
import { computed, ref } from 'vue'

import { api, outcome, type Design, type Load } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import { count } from '@/shared/format'
import PriceTag from '@/shared/PriceTag.vue'
import TakeButton from '@/shared/TakeButton.vue'

import QuantityField from '@/fields/QuantityField.vue'

const props = defineProps<{ load: Load; design: Design }>()
const emit = defineEmits<{ change: [part: Partial<Load>] }>()
const running_w = ref<number | null>(null)
const duty = ref<number | null>(null)

/** The row with what was typed in its place; none while nothing is typed. */
const replacement = computed<Load | null>(() =>
  running_w.value === null && duty.value === null
    ? null
    : {
        ...props.load,
        running_w: running_w.value ?? props.load.running_w,
        duty_frac: duty.value === null ? props.load.duty_frac : Math.round(duty.value * 1e4) / 1e6,
        start_w: running_w.value === null ? (props.load.start_w ?? null) : null,
        known: null,
        start_known: null,
      },
)

const { value: prices, trouble } = useAnswer({
  ask: () =>
    outcome(
      api.POST('/api/loads/prices', {
        body: { design: props.design, load_id: props.load.id, replacement: replacement.value },
      }),
    ),
  on: [() => props.design, replacement],
})

function take(): void {
  const found = replacement.value
  if (!found) return
  running_w.value = duty.value = null
  emit('change', {
    running_w: found.running_w,
    duty_frac: found.duty_frac,
    start_w: found.start_w ?? null,
    known: null,
    start_known: null,
  })
}

function shorten(): void {
  if (prices.value) emit('change', { hours: prices.value.shorter_hours })
}
</script>

<template>
  <div class="price" data-test="load-price">
    <div class="fact">
      <span class="what">Without it</span>
      <PriceTag :price="prices?.without_it" />
    </div>
    <div class="fact">
      <span class="what">
        An hour less{{
          prices?.hour_left_out == null ? '' : `, ${prices.hour_left_out} to ${prices.hour_left_out + 1}`
        }}
      </span>
      <PriceTag :price="prices?.one_hour_less" />
      <TakeButton v-if="prices?.one_hour_less" :change_h="prices.one_hour_less.gain_h" @take="shorten" />
    </div>
    <QuantityField
      label="Another in its place"
      unit="W"
      may-be-empty
      :value="running_w"
      :empty-means="String(load.running_w)"
      data-test="replace-watts"
      @change="(value) => (running_w = value)"
    />
    <QuantityField
      label="at a duty of"
      unit="%"
      may-be-empty
      :value="duty"
      :empty-means="String(Math.round(load.duty_frac * 1000) / 10)"
      @change="(value) => (duty = value)"
    />
    <div v-if="replacement && prices?.replaced" class="fact" data-test="replaced">
      <span class="what"
        >{{ count(prices.replaced_daily_wh ?? 0) }} Wh a day instead of {{ count(prices.daily_wh) }}</span
      >
      <PriceTag :price="prices.replaced" />
      <TakeButton data-test="take-replacement" :change_h="prices.replaced.gain_h" @take="take" />
    </div>
    <p v-else class="lesser">
      {{
        trouble
          ? 'Hearth Keep is not answering, or the figure cannot be used.'
          : 'Nothing changes until you take it.'
      }}
    </p>
  </div>
</template>

<style scoped>
.price {
  display: grid;
  grid-template-columns: 110px 150px 122px 100px minmax(0, 1fr);
  gap: 8px;
  align-items: end;
}

.fact {
  line-height: 1.35;
}

.what {
  display: block;
  font-size: 12.5px;
  color: var(--slate);
}

p {
  margin: 0 0 6px;
  font-size: 13px;
}
</style>
