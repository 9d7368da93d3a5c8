<script setup lang="ts">
import { mdiRedo, mdiUndo } from '@mdi/js'
import { storeToRefs } from 'pinia'
import { computed, onBeforeUnmount, useTemplateRef, watch } from 'vue'
import { RouterLink, RouterView, useRoute } from 'vue-router'

import ChecksPane from '@/checks/ChecksPane.vue'
import { useDesign } from '@/design/store'
import { findingsOn, STEPS } from '@/steps/steps'
import EnduranceStrip from '@/strip/EnduranceStrip.vue'
import StripLine from '@/strip/StripLine.vue'

import AlternativeNote from './AlternativeNote.vue'
import ConflictBanner from './ConflictBanner.vue'
import DesignName from './DesignName.vue'
import PaneBar from './PaneBar.vue'
import SaveNote from './SaveNote.vue'
import StepRail from './StepRail.vue'
import TopBar from './TopBar.vue'
import { useDesignKeys } from './useDesignKeys'
import { usePanes } from './usePanes'

const route = useRoute()
const store = useDesign()
const { document, assessment, openError, canUndo, canRedo, isDirty } = storeToRefs(store)
const topBar = useTemplateRef('topBar')
const step = computed(() => STEPS.find((entry) => entry.name === route.name) ?? STEPS[0])
const isAlone = computed(() => step.value?.isAlone === true)

watch(
  () => route.params['id'],
  (id) => id && store.open(String(id)),
  { immediate: true },
)
watch([step, document], () => {
  window.document.title = document.value
    ? `${step.value?.title} · ${document.value.name} · Hearth Keep`
    : 'Hearth Keep'
})
onBeforeUnmount(() => store.close())
const { isPhone, pane, areChecksFolded, isStripFolded } = usePanes()
useDesignKeys({
  openHelp: () => topBar.value?.openHelp(),
  foldChecks: () => (areChecksFolded.value = !areChecksFolded.value),
  foldStrip: () => (isStripFolded.value = !isStripFolded.value),
})

/** On a phone the line opens the outage's pane, elsewhere the strip itself. */
function openStrip(): void {
  if (isPhone.value) pane.value = 'outage'
  else isStripFolded.value = false
}
</script>

<template>
  <div class="shell">
    <TopBar ref="topBar">
      <DesignName v-if="document" />
      <AlternativeNote v-if="document" />
      <template #actions>
        <SaveNote v-if="document" />
        <v-btn
          size="small"
          :disabled="!canUndo && !isDirty"
          data-test="undo"
          aria-label="Undo"
          @click="store.undo"
        >
          <v-icon v-if="isPhone" :icon="mdiUndo" /><template v-else>Undo</template>
        </v-btn>
        <v-btn size="small" :disabled="!canRedo" data-test="redo" aria-label="Redo" @click="store.redo">
          <v-icon v-if="isPhone" :icon="mdiRedo" /><template v-else>Redo</template>
        </v-btn>
      </template>
    </TopBar>
    <ConflictBanner />
    <main v-if="openError" class="unopened">
      <h1>This design could not be opened</h1>
      <p>{{ openError }}</p>
      <RouterLink to="/">All designs</RouterLink>
    </main>
    <template v-else-if="document && step">
      <div
        v-show="!isPhone || pane !== 'outage'"
        class="middle"
        :class="{ wide: areChecksFolded || isAlone }"
      >
        <StepRail v-show="!isPhone || pane === 'steps'" />
        <main v-show="!isPhone || pane === 'page'" class="page" :aria-busy="assessment === null">
          <div class="heading">
            <h1>{{ step.title }}</h1>
            <span class="lesser">{{ step.purpose }}</span>
          </div>
          <RouterView />
        </main>
        <ChecksPane
          v-show="isPhone ? pane === 'checks' : !areChecksFolded && !isAlone"
          :findings="findingsOn(step, assessment) ?? []"
        />
      </div>
      <EnduranceStrip v-if="isPhone ? pane === 'outage' : !isStripFolded && !isAlone" />
      <StripLine v-else-if="!isAlone" @open="openStrip" />
      <PaneBar v-if="isPhone" v-model="pane" :step="step" />
    </template>
  </div>
</template>

<style scoped>
.middle {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: 188px minmax(0, 1fr) 272px;
  grid-template-rows: minmax(0, 1fr);
}

/* The middle and its three panes know their own sizes, and the page keeps the room of its scroll bar: a change in one part then
   never lays out the others, nor the page twice, once without and once with the bar. Without this each typed character cost
   six to ten milliseconds of layout on a page that does not scroll. */
.middle,
.middle > * {
  contain: strict;
}

.page {
  overflow-y: auto;
  scrollbar-gutter: stable;
  padding: 14px 18px 24px;
}

.heading {
  display: flex;
  align-items: baseline;
  gap: 14px;
  margin-bottom: 10px;
}

.unopened {
  padding: 40px;
}

.middle.wide {
  grid-template-columns: 188px minmax(0, 1fr);
}

@media (max-width: 1150px) {
  .middle {
    grid-template-columns: 172px minmax(0, 1fr) 200px;
  }

  .middle.wide {
    grid-template-columns: 172px minmax(0, 1fr);
  }

  .page {
    padding: 12px 10px 20px;
  }
}

/* In the hand: one pane at a time. */
@media (max-width: 640px) {
  .middle,
  .middle.wide {
    grid-template-columns: minmax(0, 1fr);
  }

  .heading {
    display: block;
  }
}
</style>
