<script setup lang="ts">
/** Faults of the simulated devices, to be switched on and seen named. */
import type { StandInsNow, SwitchState } from '@/api/client'

import { useDevices } from './devices'
import { FAULT_WORDS } from './words'

defineProps<{ state: NonNullable<StandInsNow['state']> }>()
const store = useDevices()
const flip = (one: SwitchState, on: boolean) => store.switchFault({ ...one, on })
</script>

<template>
  <details data-test="stand-ins">
    <summary>
      Faults of the simulated devices:
      {{ state.switches.filter((each) => each.on).length || 'none' }} switched on
    </summary>
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
