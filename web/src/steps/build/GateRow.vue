<script setup lang="ts">
/** One gate: what it keeps away, what is done, what is expected and read, what may lie behind it, and the signature. */
import { storeToRefs } from 'pinia'
import { computed, ref, useId, watch } from 'vue'

import type { GateSheet, GateSigning } from '@/api/client'
import SeverityMark from '@/checks/SeverityMark.vue'
import FieldFrame from '@/fields/FieldFrame.vue'
import { counted, savedAt } from '@/shared/format'

import { useBuild } from './build'
import GateAsks from './GateAsks.vue'
import { MARKS, STANDS } from './words'

const LONGEST_NOTE = 2000
const LONGEST_NAME = 200
const props = defineProps<{ number: number; sheet: GateSheet; isOpen: boolean }>()
const emit = defineEmits<{ toggle: []; signed: [] }>()
const build = useBuild()
const { readings, current } = storeToRefs(build)
const second = ref('')
const secondId = useId()
const isForbidden = computed(() => props.sheet.judged.forbidden.length > 0)
const noteId = useId()
const words = ref('')
const refused = ref('')
const isBusy = ref(false)
const gate = computed(() => props.sheet.gate)
const stand = computed(() => props.sheet.progress.stand)
const signed = computed(() => props.sheet.progress.signed)
const isDone = computed(() => stand.value === 'passed' || stand.value === 'skipped')
/** Readings are typed that are not signed yet. */
const isEdited = computed(() => readings.value[gate.value.key] !== undefined)
/** Being read now, or as it was signed. */
const values = computed<Record<string, number>>(
  () => readings.value[gate.value.key] ?? signed.value?.entry.readings ?? {},
)
const judged = computed(() => props.sheet.judged)
watch([() => props.isOpen, current], () => (refused.value = ''))

const told = computed(() => {
  const count = judged.value.outside.length
  if (isForbidden.value) return 'stop work'
  if (count) return `${count} outside`
  if (stand.value === 'waits') return ''
  const left = judged.value.open.length
  return !isDone.value && left ? counted(left, 'reading') : ''
})

async function sign(signing: GateSigning): Promise<void> {
  isBusy.value = true
  refused.value = await build.sign(props.sheet, signing, words.value.trim(), second.value.trim())
  isBusy.value = false
  if (refused.value) return
  words.value = second.value = ''
  emit('signed')
}
</script>

<template>
  <li class="gate" :class="[stand, { shown: isOpen }]" :data-test="`gate-${gate.key}`">
    <h2>
      <button type="button" class="head" :aria-expanded="isOpen" @click="emit('toggle')">
        <span class="number figures">{{ number }}</span>
        <SeverityMark v-if="isForbidden" severity="stop" />
        <SeverityMark v-else-if="MARKS[stand]" :severity="MARKS[stand]!" />
        <i v-else class="open-mark" :class="{ waits: stand === 'waits' }" />
        <span class="title">{{ gate.title }}</span>
        <span class="told" :class="{ bad: judged.outside.length }">{{ told }}</span>
        <span class="stand" data-test="stand">{{ STANDS[stand] }}</span>
        <span class="signed lesser">{{
          signed && isDone ? `${signed.entry.who}, ${savedAt(signed.at)}` : ''
        }}</span>
      </button>
    </h2>
    <div v-if="isOpen" class="body">
      <p v-for="precaution in gate.precautions" :key="precaution.danger" class="danger">
        <SeverityMark severity="stop" /> {{ precaution.text }}
      </p>
      <p class="why lesser">{{ gate.why }}</p>
      <p v-if="sheet.progress.waits_for.length" class="bad" data-test="waits-for">
        Waits for: {{ sheet.progress.waits_for.join('; ') }}.
      </p>
      <ul class="do">
        <li v-for="line in gate.do" :key="line">{{ line }}</li>
      </ul>
      <p v-if="gate.now">{{ gate.now }}</p>
      <GateAsks :sheet="sheet" :values="values" @read="(key, value) => build.put(gate.key, key, value)" />
      <div class="sign">
        <FieldFrame
          :label="judged.outside.length && !isForbidden ? 'Note: why readings outside are accepted' : 'Note'"
          :for="noteId"
        >
          <v-text-field
            :id="noteId"
            v-model="words"
            class="words"
            :maxlength="LONGEST_NOTE"
            data-test="gate-note"
          />
        </FieldFrame>
        <FieldFrame
          v-if="judged.outside.length && !isForbidden"
          label="Second look by"
          :for="secondId"
          class="second"
        >
          <v-text-field :id="secondId" v-model="second" :maxlength="LONGEST_NAME" data-test="gate-second" />
        </FieldFrame>
        <v-btn
          v-if="(!isDone || isEdited) && !isForbidden"
          color="pine"
          variant="flat"
          :loading="isBusy"
          data-test="pass"
          @click="sign('passed')"
          >{{ isDone ? 'Sign anew' : 'Sign' }}</v-btn
        >
        <v-btn v-if="isDone" :loading="isBusy" data-test="reopen" @click="sign('reopened')"
          >Take it back</v-btn
        >
        <v-btn
          v-else-if="sheet.may_be_skipped && !isForbidden"
          :loading="isBusy"
          data-test="skip"
          @click="sign('skipped')"
          >Skip</v-btn
        >
      </div>
      <p v-if="refused" class="bad" role="alert" data-test="refused">{{ refused }}</p>
      <p v-if="signed && signed.entry.note" class="lesser">
        {{ signed.entry.who }}: {{ signed.entry.note
        }}{{ signed.entry.second ? `; second look: ${signed.entry.second}` : '' }}
      </p>
      <p v-if="!isDone || stand === 'skipped'" class="lesser skipping">
        {{
          stand === 'skipped'
            ? 'Skipped. The risk:'
            : sheet.may_be_skipped
              ? 'Left out it risks:'
              : 'Never left out. The risk:'
        }}
        {{ gate.skipping }}
      </p>
    </div>
  </li>
</template>

<style scoped>
.gate {
  border-bottom: 1px solid var(--rule);
}

.gate.shown {
  border-left: 3px solid var(--ember);
  padding-left: 9px;
  background: var(--sheet);
}

h2 {
  font-size: 14px;
}

.head {
  display: grid;
  grid-template-columns: 26px 14px minmax(0, 1fr) auto 74px minmax(0, 190px);
  gap: 8px;
  align-items: baseline;
  width: 100%;
  padding: 5px 0;
  text-align: left;
}

.head .number {
  text-align: right;
  color: var(--slate);
}

.title {
  font-weight: 600;
}

.waits .title {
  color: var(--slate);
}

.stand {
  font-size: 13px;
  font-weight: 400;
}

.skipped .stand,
.changed .stand {
  font-weight: 700;
}

.told,
.signed {
  font-size: 13px;
  font-weight: 400;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.open-mark {
  width: 11px;
  height: 11px;
  border: 1px solid var(--ink);
  border-radius: 50%;
}

.open-mark.waits {
  border: 1px dashed var(--slate);
}

.body {
  padding: 2px 8px 12px 34px;
  max-width: 940px;
}

.danger {
  color: var(--wine);
  font-weight: 600;
  margin: 0 0 4px;
}

.why {
  margin: 0 0 6px;
}

.do {
  margin: 0 0 8px;
  padding-left: 18px;
}

.do li {
  margin-bottom: 2px;
}

.sign {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: end;
  margin: 10px 0 4px;
}

.sign > :first-child {
  flex: 1 1 260px;
}

.bad {
  color: var(--wine);
}

.skipping {
  font-size: 13px;
  margin: 4px 0 0;
}

@media (max-width: 760px) {
  .head {
    grid-template-columns: 20px 14px minmax(0, 1fr) auto;
  }

  .head .stand {
    grid-column: 4;
    grid-row: 1;
  }

  .head .told,
  .head .signed {
    grid-column: 3 / -1;
    white-space: normal;
  }

  .head .signed:empty,
  .head .told:empty {
    display: none;
  }

  .body {
    padding-left: 4px;
  }
}
</style>
