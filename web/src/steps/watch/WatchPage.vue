<script setup lang="ts">
/** Watch: one number, one instruction, one picture; below them what they rest on, and what is told. */
import { storeToRefs } from 'pinia'
import { computed, onBeforeUnmount, watch } from 'vue'
import { RouterLink } from 'vue-router'

import { keepOnDevice } from '@/card/offline'
import { useDesign } from '@/design/store'
import { useNightTheme } from '@/shell/useNightTheme'

import { useBuild } from '../build/build'
import { useOutbox } from '../logbook/outbox'
import AlarmList from './AlarmList.vue'
import AheadPicture from './AheadPicture.vue'
import { useDevices } from './devices'
import DevicesPanel from './DevicesPanel.vue'
import ForecastPanel from './ForecastPanel.vue'
import NextThing from './NextThing.vue'
import NowPanel from './NowPanel.vue'
import OutsideWord from './OutsideWord.vue'
import RingBar from './RingBar.vue'
import SendPanel from './SendPanel.vue'
import TaskList from './TaskList.vue'
import TellPanel from './TellPanel.vue'
import TimeLeft from './TimeLeft.vue'
import { useWatch } from './watch'
import { ago, after, at } from './words'

const { id, document } = storeToRefs(useDesign())
const build = useBuild()
const store = useWatch()
const devices = useDevices()
const { view, old_h, isAway, isLookedAt, trouble } = storeToRefs(store)
const { unsent } = storeToRefs(useOutbox())
const night = useNightTheme()
watch(id, () => void build.open(), { immediate: true })
isLookedAt.value = true
devices.isLookedAt = true
void devices.look()
void store.refresh()
void keepOnDevice()
watch(
  () => view.value?.phase === 'on' && view.value.is_dark,
  (isDark) => night.darken(isDark),
  { immediate: true },
)
onBeforeUnmount(() => {
  isLookedAt.value = false
  devices.isLookedAt = false
  night.darken(false)
})

const now = computed(() => (view.value ? after(view.value.now, old_h.value) : ''))
const title = computed(() => {
  const said = view.value
  if (!said) return ''
  switch (said.phase) {
    case 'on':
      return `Outage since ${at(said.begun, now.value)}`
    case 'before':
      return `Storm warning: expected ${at(said.begun, now.value)}`
    case 'after':
      return `Over since ${at(said.ended ?? said.now, now.value)}`
    case 'quiet':
      return 'No outage: hours as if one began now'
  }
  return ''
})
const help = computed(() => {
  const said = view.value
  if (!said || said.phase === 'quiet' || said.phase === 'after') return ''
  return said.help_is_told
    ? `Help or grid expected ${at(said.help, now.value)}`
    : `Nobody knows when it ends: counted to ${at(said.help, now.value)}, as in the plan`
})
</script>

<template>
  <div v-if="document">
    <p v-if="trouble" class="trouble" role="alert" data-test="watch-trouble">{{ trouble }}</p>
    <p v-if="isAway" class="away" role="status" data-test="watch-away">
      Hearth Keep does not answer.
      <template v-if="view"
        >What stands here was said {{ ago(view.now, now) }}; the hours go on from there.</template
      >
    </p>
    <p v-if="unsent.length" class="away" role="status" data-test="watch-outbox">
      {{ unsent.length === 1 ? '1 entry is' : `${unsent.length} entries are` }} kept on this device until
      Hearth Keep answers.
    </p>
    <template v-if="view">
      <p class="phase">
        <b data-test="watch-phase">{{ title }}</b>
        <span v-if="help" class="lesser">{{ help }}</span>
      </p>
      <AlarmList :view="view" :now="now" />
      <TimeLeft :view="view" :old_h="old_h" :now="now" />
      <TaskList v-if="view.tasks.length" :view="view" :now="now" />
      <NextThing v-else-if="view.phase !== 'after'" :view="view" :now="now" />
      <OutsideWord :view="view" :now="now" />
      <AheadPicture :view="view" :now="now" />
      <TellPanel :view="view" :now="now" />
      <div class="ground">
        <NowPanel :view="view" :now="now" />
        <ForecastPanel :view="view" />
      </div>
      <SendPanel :view="view" :old_h="old_h" :now="now" />
      <DevicesPanel :view="view" :now="now" />
      <RingBar :view="view" />
      <p class="lesser">
        <RouterLink :to="{ name: 'card', params: { id } }" data-test="to-card">The family’s card</RouterLink>:
        one page in large type; opened once it stays on the phone.
      </p>
      <p class="lesser care">
        Hearth Keep never switches anything, and is no medical device: who depends on a machine needs the
        supplier’s and the utility’s own plan.
      </p>
    </template>
    <p v-else-if="!isAway" class="lesser">Asking how things stand…</p>
  </div>
</template>

<style scoped>
.phase {
  display: flex;
  flex-wrap: wrap;
  gap: 0 18px;
  margin: 0 0 6px;
  font-size: 16px;
}

.away,
.trouble {
  border-left: 3px solid var(--sun);
  padding-left: 10px;
  margin: 0 0 8px;
}

.trouble {
  border-left-color: var(--wine);
}

.ground {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(300px, 1fr));
  gap: 0 28px;
}

.lesser a {
  color: var(--pine);
}

.care {
  margin-top: 14px;
  font-size: 12.5px;
}
</style>
