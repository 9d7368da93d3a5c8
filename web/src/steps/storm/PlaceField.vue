<script setup lang="ts">
/** The site's place: a town found by name fills position and standard time as one edit; anything else typed stands as it is. */
import { storeToRefs } from 'pinia'
import { computed, ref, useId, watch } from 'vue'

import { api, outcome, type Town } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import { useDesign } from '@/design/store'
import FieldFrame from '@/fields/FieldFrame.vue'
import { LONGEST_NAME } from '@/fields/limits'
import { count } from '@/shared/format'

const LEAST_LETTERS = 2
const MOST_LETTERS = 80
const id = useId()
const store = useDesign()
const { document } = storeToRefs(store)
const place = computed(() => document.value?.site.place ?? '')
const text = ref(place.value)
/** The list is open, and which of its towns is picked by keys; none means that the text stands as typed. */
const isOpen = ref(false)
const at = ref(-1)
const wrong = ref('')
const { value: found, drop } = useAnswer<Town[]>({
  ask: () => {
    const words = text.value.trim()
    if (!isOpen.value || words.length < LEAST_LETTERS || words.length > MOST_LETTERS) return null
    return outcome(api.GET('/api/towns', { params: { query: { words } } }))
  },
  on: text,
  wait: 120,
  immediate: false,
})
watch(place, () => (text.value = place.value))
watch(found, () => (at.value = -1))
const towns = computed(() => (isOpen.value ? (found.value ?? []) : []))
const titleOf = (town: Town) => [town.name, town.region || town.country].filter(Boolean).join(', ')
const degrees = (value: number, plus: string, minus: string) =>
  `${Math.abs(value).toFixed(2)}° ${value < 0 ? minus : plus}`
const noteOf = (town: Town) =>
  `${degrees(town.latitude_deg, 'N', 'S')}, ${degrees(town.longitude_deg, 'E', 'W')}, UTC ${town.utc_offset_h < 0 ? '−' : '+'}${Math.abs(town.utc_offset_h)}, ${count(town.people)} people`

function close(): void {
  isOpen.value = false
  drop()
}

function take(town: Town): void {
  wrong.value = ''
  close()
  text.value = titleOf(town)
  store.setAll([
    { path: 'site.place', value: titleOf(town) },
    { path: 'site.latitude_deg', value: town.latitude_deg },
    { path: 'site.longitude_deg', value: town.longitude_deg },
    { path: 'site.utc_offset_h', value: town.utc_offset_h },
  ])
}

function commit(): void {
  close()
  const typed = text.value.trim()
  wrong.value = typed ? '' : 'needs at least one letter'
  if (typed && typed !== place.value) store.set('site.place', typed)
}

function onKey(event: KeyboardEvent): void {
  const many = towns.value.length
  const by = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0
  const town = towns.value[at.value]
  // One step beyond either end of the list lies the text as typed.
  if (by && many) at.value = ((at.value + 1 + by + many + 1) % (many + 1)) - 1
  else if (event.key === 'Enter' && town) take(town)
  else if (event.key === 'Enter') commit()
  else if (event.key === 'Escape') {
    text.value = place.value
    close()
    event.stopPropagation()
  } else return
  event.preventDefault()
}
</script>

<template>
  <FieldFrame class="words place" label="Place, or a town by name" :for="id">
    <v-text-field
      :id="id"
      v-model="text"
      :maxlength="LONGEST_NAME"
      autocomplete="off"
      aria-autocomplete="list"
      :aria-controls="towns.length ? `${id}-towns` : undefined"
      :aria-activedescendant="at >= 0 ? `${id}-${at}` : undefined"
      :error-messages="wrong || []"
      data-path="site.place"
      @update:model-value="isOpen = true"
      @keydown="onKey"
      @blur="commit"
    />
    <span class="visually-hidden" role="status">{{
      towns.length ? `${count(towns.length)} towns; Down picks one` : ''
    }}</span>
    <ul v-if="towns.length" :id="`${id}-towns`" role="listbox" aria-label="Towns" data-test="towns">
      <li
        v-for="(town, number) in towns"
        :id="`${id}-${number}`"
        :key="number"
        role="option"
        :aria-selected="number === at"
        @mousedown.prevent="take(town)"
      >
        {{ titleOf(town) }}<span v-if="town.region" class="lesser">, {{ town.country }}</span>
        <span class="lesser note">{{ noteOf(town) }}</span>
      </li>
    </ul>
  </FieldFrame>
</template>

<style scoped>
.place {
  position: relative;
}

ul {
  position: absolute;
  z-index: 10;
  top: 100%;
  left: 0;
  min-width: 100%;
  width: max-content;
  max-width: min(460px, 92vw);
  list-style: none;
  padding: 2px 0;
  margin: 0;
  background: var(--sheet);
  border: 1px solid var(--slate);
}

li {
  padding: 4px 10px;
  cursor: pointer;
}

li[aria-selected='true'],
li:hover {
  background: color-mix(in srgb, var(--sun) 24%, transparent);
}

.note {
  display: block;
  font-size: 12px;
}
</style>
