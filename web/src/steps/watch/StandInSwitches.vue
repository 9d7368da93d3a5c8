<script setup lang="ts">
/** The simulated house: whether it does what is decided here, and faults of its devices, to be seen named. */
import { storeToRefs } from 'pinia'
import { computed, watch } from 'vue'

import type { StandInsNow, SwitchState, WatchView } from '@/api/client'
import { count } from '@/shared/format'

import { useDevices } from './devices'
import { FAULT_WORDS, WISH_WORDS } from './words'

const props = defineProps<{ state: NonNullable<StandInsNow['state']>; view: WatchView }>()
const store = useDevices()
const { isFollowed, standIns, told } = storeToRefs(store)
const flip = (one: SwitchState, on: boolean) => store.switchFault({ ...one, on })

const decided = computed(() => ({
  off: props.view.off.filter((id) => props.state.load_ids.includes(id)),
  generator: props.view.generator,
}))
const strangers = computed(() => props.view.off.length - decided.value.off.length)
const differs = computed(
  () =>
    decided.value.generator !== props.state.generator || decided.value.off.join() !== props.state.off.join(),
)
/** Only where the simulated devices are those that are asked here: another installation decides nothing for them. */
const isAsked = computed(() => {
  const there = standIns.value?.sources?.devices[0]
  return (
    told.value?.sources.devices.some((each) => each.host === there?.host && each.port === there.port) ?? false
  )
})
watch(
  () => isAsked.value && isFollowed.value && differs.value && JSON.stringify(decided.value),
  (due) => void (due && store.liveThere(decided.value)),
  { immediate: true },
)
const lives = computed(() => {
  const off = props.state.off.length
  const loads = off ? `${count(off)} of its loads are left off` : 'nothing is left off'
  const others = strangers.value ? `; ${count(strangers.value)} left off here are not loads of it` : ''
  return `There ${loads}, its generator ${WISH_WORDS[props.state.generator]}${others}.`
})
</script>

<template>
  <details data-test="stand-ins">
    <summary>
      The simulated house; faults of its devices:
      {{ state.switches.filter((each) => each.on).length || 'none' }} switched on
    </summary>
    <p v-if="isAsked" class="house">
      <label>
        <input v-model="isFollowed" type="checkbox" data-test="house-follows" />
        The simulated house does what is decided here.
      </label>
      <span class="lesser" data-test="house-lives">{{ lives }}</span>
    </p>
    <div class="devices">
      <fieldset v-for="device in state.devices" :key="device.kind">
        <legend>{{ device.name }}</legend>
        <label v-for="one in state.switches.filter((each) => each.device === device.kind)" :key="one.fault">
          <input
            type="checkbox"
            :checked="one.on"
            :data-test="`fault-${one.device}-${one.fault}`"
            @change="flip(one, ($event.target as HTMLInputElement).checked)"
          />
          {{ FAULT_WORDS[one.fault] }}
        </label>
      </fieldset>
    </div>
  </details>
</template>

<style scoped>
summary {
  cursor: pointer;
}

.house {
  margin: 4px 0 0;
}

.devices {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(200px, 1fr));
  gap: 0 20px;
}

fieldset {
  border: 0;
  padding: 6px 0;
  margin: 0;
}

legend {
  font-weight: 700;
}

label {
  display: block;
  min-height: 30px;
}
</style>
