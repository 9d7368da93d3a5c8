<script setup lang="ts">
/** Logbook: written at the rack, kept across revisions, and what it says of the plan. */
import { storeToRefs } from 'pinia'
import { computed, ref, watch } from 'vue'

import AlarmFold from '@/checks/AlarmFold.vue'
import { useDesign } from '@/design/store'
import { counted } from '@/shared/format'
import TabRow from '@/shared/TabRow.vue'

import { useBuild } from '../build/build'
import CorrectionsPanel from './CorrectionsPanel.vue'
import ImportPanel from './ImportPanel.vue'
import { useLogbook } from './logbook'
import LogPanel from './LogPanel.vue'
import OutagesPanel from './OutagesPanel.vue'
import { useOutbox } from './outbox'
import UpkeepPanel from './UpkeepPanel.vue'

const part = ref('log')
const { id, document } = storeToRefs(useDesign())
const build = useBuild()
const logbook = useLogbook()
const outbox = useOutbox()
const { current, installations } = storeToRefs(build)
const { outlook, overdue } = storeToRefs(logbook)
const { unsent, isAway, clockOff_s } = storeToRefs(outbox)
watch(id, () => void build.open(), { immediate: true })
void logbook.refresh()

const PARTS = computed(() => [
  { key: 'log', title: 'Log' },
  { key: 'corrections', title: 'Corrections' },
  { key: 'upkeep', title: overdue.value ? `Upkeep, ${overdue.value} due` : 'Upkeep' },
  { key: 'outages', title: 'Outages' },
  { key: 'take', title: 'Take a log' },
])
/** A device whose clock is off by more says so; entries are set right all the same. */
const MOST_OFF_S = 90
const clockText = computed(() => {
  const off = Math.abs(clockOff_s.value)
  if (off <= MOST_OFF_S) return ''
  const how =
    off > 172_800 ? counted(Math.round(off / 86_400), 'day') : counted(Math.round(off / 60), 'minute')
  return `This device’s clock is ${how} ${clockOff_s.value < 0 ? 'behind' : 'ahead'}; entries are kept at their right time.`
})
</script>

<template>
  <div v-if="document">
    <p class="state">
      <template v-if="current"
        ><b>{{ current.name }}</b
        ><span v-if="installations.length > 1" class="lesser">, chosen on Build</span></template
      >
      <template v-else>No installation yet: begin its record on Build.</template>
      <span v-if="unsent.length" class="away" role="status" data-test="outbox">
        {{ unsent.length === 1 ? '1 entry' : `${unsent.length} entries` }}
        {{ isAway ? 'kept on this device until Hearth Keep answers' : 'on the way' }}
      </span>
    </p>
    <p v-if="clockText" class="lesser" data-test="clock-off">{{ clockText }}</p>
    <AlarmFold
      v-for="alarm in outlook?.alarms ?? []"
      :key="alarm.key"
      :severity="alarm.severity"
      :is-open="alarm.severity === 'stop'"
      :data-test="`alarm-${alarm.key}`"
    >
      <template #line>{{ alarm.title }}</template>
      <p>{{ alarm.message }} {{ alarm.next }}</p>
      <p class="lesser">{{ alarm.basis }}.</p>
    </AlarmFold>
    <TabRow v-model="part" :parts="PARTS" label="Parts of the logbook" />
    <LogPanel v-if="part === 'log'" />
    <CorrectionsPanel v-else-if="part === 'corrections'" />
    <UpkeepPanel v-else-if="part === 'upkeep'" />
    <OutagesPanel v-else-if="part === 'outages'" />
    <ImportPanel v-else />
  </div>
</template>

<style scoped>
.state {
  margin: 0 0 8px;
}

.away {
  margin-left: 14px;
  color: var(--sun-ink);
  font-weight: 600;
}
</style>
