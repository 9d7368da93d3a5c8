<script setup lang="ts" generic="Reading extends { understood: string[]; problems: ProblemField[] }">
/** One line makes a row. What is understood is shown before Enter; rows copied from a sheet go elsewhere. */
import { computed, ref, watch } from 'vue'

import type { Outcome, ProblemField } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'

const props = defineProps<{
  /** What is understood of a text. */
  read: (text: string) => Promise<Outcome<Reading>>
  /** Whether a reading makes a row. */
  makes: (reading: Reading) => boolean
  /** Why no row can be added; empty while one can. */
  full: string
  placeholder: string
  label: string
}>()
const emit = defineEmits<{ enter: [reading: Reading]; sheet: [text: string] }>()
const line = ref('')
const MOST_CHARACTERS = 400
let isEntering = false

const {
  value: reading,
  trouble,
  put,
} = useAnswer<Reading>({
  ask: () => (line.value.trim() ? props.read(line.value) : null),
  on: line,
  wait: 60,
  immediate: false,
})
const enterFailed = ref(false)
const silent = computed(() => trouble.value !== '' || enterFailed.value)
watch(line, () => (enterFailed.value = false))

/** Enter takes its own reading of the line, since a reading on its way may be overtaken. */
async function enter(): Promise<void> {
  const text = line.value
  if (!text.trim() || props.full || isEntering) return
  isEntering = true
  const answer = await props.read(text)
  isEntering = false
  enterFailed.value = answer.kind !== 'answer'
  if (answer.kind !== 'answer') return
  put(answer.value)
  if (!props.makes(answer.value)) return
  emit('enter', answer.value)
  // What was typed on meanwhile stays.
  if (line.value === text) line.value = ''
  put(null)
}

/** Rows copied from a sheet go to the preview; one line is simply typed. */
function paste(event: ClipboardEvent): void {
  const text = event.clipboardData?.getData('text/plain') ?? ''
  if (!/[\n\t]/.test(text.trim())) return
  event.preventDefault()
  emit('sheet', text)
}

function leave(event: Event): void {
  line.value = ''
  put(null)
  ;(event.target as HTMLInputElement).blur()
}

const field = (name: string) => name.replace(/_(w|a|frac)$/, '')
</script>

<template>
  <div class="entry">
    <div class="box">
      <input
        v-model="line"
        class="figures"
        :maxlength="MOST_CHARACTERS"
        :placeholder="placeholder"
        :aria-label="label"
        aria-describedby="entry-reading"
        autocomplete="off"
        spellcheck="false"
        data-key="new"
        data-test="entry"
        @paste="paste"
        @keydown.enter.prevent="enter"
        @keydown.esc.stop="leave"
      />
      <kbd aria-hidden="true">N</kbd>
    </div>
    <p id="entry-reading" class="reading" role="status" data-test="reading">
      <template v-if="full">{{ full }}</template>
      <template v-else-if="silent">Hearth Keep is not answering; the line stays here.</template>
      <template v-else-if="reading">
        <span v-for="(word, index) in reading.understood" :key="index" class="word">{{ word }}</span>
        <span v-for="problem in reading.problems" :key="problem.field" class="problem">
          <template v-if="problem.field === 'line'">{{ problem.value }} {{ problem.accepted }}</template>
          <template v-else
            >{{ field(problem.field) }} {{ problem.accepted
            }}{{ problem.value === "''" || problem.value === '' ? '' : ` (got ${problem.value})` }}</template
          >
        </span>
        <span v-if="makes(reading)" class="lesser">Enter adds it</span>
      </template>
    </p>
  </div>
</template>

<style scoped>
.box {
  display: flex;
  align-items: center;
  background: var(--sheet);
  border: 1px solid var(--slate);
  padding: 0 10px 0 12px;
}

.box:focus-within {
  border-color: var(--pine);
  box-shadow: inset 0 0 0 1px var(--pine);
}

input {
  flex: 1;
  min-width: 0;
  height: 34px;
  color: var(--ink);
  font-size: 14px;
  outline: none;
}

input::placeholder {
  color: var(--slate);
}

kbd {
  border: 1px solid var(--rule);
  color: var(--slate);
  font-size: 12px;
  padding: 0 6px;
}

.reading {
  margin: 3px 0 0;
  min-height: 20px;
  font-size: 13px;
}

.word {
  display: inline-block;
  border-bottom: 2px solid var(--pine);
  margin-right: 10px;
}

.problem {
  color: var(--wine);
  margin-right: 12px;
}
</style>
