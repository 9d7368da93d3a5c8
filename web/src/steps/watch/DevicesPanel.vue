<script setup lang="ts">
/** The devices that are asked: what each said and when, and what of it is not believed. */
import { storeToRefs } from 'pinia'
import { computed } from 'vue'

import type { DeviceShown, WatchView } from '@/api/client'
import { useDesign } from '@/design/store'
import { volume } from '@/fields/units'
import { amount, kilowatts } from '@/shared/format'

import { atSite } from '../build/build'
import { useDevices } from './devices'
import SourcesForm from './SourcesForm.vue'
import StandInSwitches from './StandInSwitches.vue'
import { ago } from './words'

const props = defineProps<{ view: WatchView; now: string }>()
const { document } = storeToRefs(useDesign())
const { told, standIns } = storeToRefs(useDevices())
/** A device's clock that is off by less says nothing [s]. */
const CLOCK_PLAY_S = 90
const local = (moment: string) => (document.value ? atSite(document.value, moment) : moment)

function values(device: DeviceShown): string {
  const said = device.values
  const volts = said.bank_v === undefined ? '' : `${said.bank_v.toFixed(2)} V`
  const amps = said.bank_a ?? said.device_a
  const own: (string | undefined)[] = [
    said.charge === undefined ? '' : `${amount(said.charge)} %`,
    said.inverter_w === undefined ? '' : `${kilowatts(said.inverter_w)} to the house`,
    said.sun_w === undefined ? '' : `${kilowatts(said.sun_w)} of sun`,
    device.runs === null ? '' : device.runs ? `runs, ${kilowatts(said.generator_w ?? 0)}` : 'stands still',
    volts,
    amps === undefined ? '' : `${amps > 0 ? '+' : ''}${amps.toFixed(1)} A`,
    said.device_c === undefined ? '' : `${Math.round(said.device_c)} °C inside`,
    device.fuel_l === null || !document.value
      ? ''
      : `${amount(Math.round(volume(document.value).show(device.fuel_l) * 10) / 10)} ${volume(document.value).label} of fuel`,
  ]
  return own.filter(Boolean).join(', ')
}
function state(device: DeviceShown): string {
  if (device.trouble) return device.trouble
  if (device.is_doubted) return 'kept apart, not believed'
  const off_s = device.clock_off_s
  if (off_s !== null && Math.abs(off_s) > CLOCK_PLAY_S)
    return `its clock is ${amount(Math.round(Math.abs(off_s) / 60))} min ${off_s > 0 ? 'ahead' : 'behind'}; it is not gone by`
  return device.wrong.join('; ')
}
const rows = computed(() =>
  (told.value?.gathered?.devices ?? []).map((device) => ({
    key: device.key,
    name: device.name,
    values: values(device),
    answered: device.answered_at ? `read ${ago(local(device.answered_at), props.now)}` : 'not read yet',
    state: state(device),
  })),
)
</script>

<template>
  <section data-test="devices">
    <h2>Devices</h2>
    <table v-if="rows.length" class="ledger" data-test="devices-table">
      <tbody>
        <tr v-for="row in rows" :key="row.key" :data-test="`device-${row.key}`">
          <th scope="row">{{ row.name }}</th>
          <td>{{ row.values }}</td>
          <td class="lesser">{{ row.answered }}</td>
          <td class="old">{{ row.state }}</td>
        </tr>
      </tbody>
    </table>
    <p v-else-if="told?.sources.devices.length" class="lesser">They are being asked for the first time…</p>
    <p v-else class="lesser">
      No device is asked: readings come from hand or from a log file. Name them below, and they are read by
      themselves.
    </p>
    <SourcesForm :now="now" />
    <StandInSwitches v-if="standIns?.state" :state="standIns.state" :view="view" />
  </section>
</template>

<style scoped>
h2 {
  margin: 12px 0 2px;
}

.ledger th,
.ledger td {
  white-space: normal;
  overflow-wrap: anywhere;
}

.ledger th {
  border-bottom-color: var(--rule);
}

.old {
  color: var(--sun-ink);
}

@media (width < 600px) {
  .ledger tr {
    display: grid;
    grid-template-columns: 1fr auto;
    border-bottom: 1px solid var(--rule);
  }

  .ledger th,
  .ledger td {
    border: 0;
    padding: 2px 0;
  }

  .ledger td:nth-child(3) {
    grid-area: 1 / 2;
  }

  .ledger td:nth-child(2),
  .ledger td:nth-child(4) {
    grid-column: 1 / -1;
  }

  .ledger td:empty {
    display: none;
  }
}
</style>
