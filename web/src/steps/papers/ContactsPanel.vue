<script setup lang="ts">
/** Names on the papers, and whom the family calls. */
import { storeToRefs } from 'pinia'
import { computed } from 'vue'

import { useDesign } from '@/design/store'
import ChoiceField from '@/fields/ChoiceField.vue'
import OptionalWords from '@/fields/OptionalWords.vue'
import WordsField from '@/fields/WordsField.vue'

const MOST_CONTACTS = 12
const LONGEST_REACH = 80
const LONGEST_NOTE = 2000
/** What a new line begins with, the next one that is not there yet. */
const ROLES = [
  'Emergency',
  'Outages and fallen lines',
  'Electrician',
  'Neighbour',
  'Supplier of medical equipment',
]

/** The household's sheet, its card and the switching steps stand in it beside English. */
const LANGUAGES = [
  { value: null, title: 'English' },
  { value: 'es', title: 'Español, and English' },
  { value: 'fr', title: 'Français, and English' },
  { value: 'de', title: 'Deutsch, and English' },
  { value: 'pt', title: 'Português, and English' },
  { value: 'pl', title: 'Polski, and English' },
  { value: 'uk', title: 'Українська, and English' },
  { value: 'zh_Hans', title: '简体中文, and English' },
]

const store = useDesign()
const { document } = storeToRefs(store)
const contacts = computed(() => document.value?.papers?.contacts ?? [])

function add(): void {
  const role =
    ROLES.find((entry) => !contacts.value.some((contact) => contact.role === entry)) ?? 'Somebody else'
  store.set('papers.contacts', [...contacts.value, { role, name: null, reach: null }])
}

function remove(index: number): void {
  store.set(
    'papers.contacts',
    contacts.value.filter((_, at) => at !== index),
  )
}
</script>

<template>
  <details class="panel" data-test="contacts">
    <summary>Names on the papers, whom to call</summary>
    <OptionalWords path="papers.prepared_for" label="Prepared for" />
    <OptionalWords path="papers.prepared_by" label="Prepared by" />
    <div v-for="(contact, index) in contacts" :key="index" class="contact">
      <WordsField :path="`papers.contacts.${index}.role`" label="Call for" />
      <OptionalWords :path="`papers.contacts.${index}.name`" label="Name" />
      <OptionalWords :path="`papers.contacts.${index}.reach`" label="Number" :most="LONGEST_REACH" />
      <button
        type="button"
        class="remove"
        :aria-label="`Remove ${contact.role} from whom to call`"
        @click="remove(index)"
      >
        Remove
      </button>
    </div>
    <v-btn v-if="contacts.length < MOST_CONTACTS" size="small" data-test="add-contact" @click="add"
      >Somebody to call</v-btn
    >
    <ChoiceField
      path="papers.household_language"
      label="The household reads"
      :choices="LANGUAGES"
      data-test="household-language"
    />
    <WordsField
      path="papers.house_note"
      label="Note for the family"
      :most="LONGEST_NOTE"
      lines
      may-be-empty
    />
  </details>
</template>

<style scoped>
.panel {
  border-top: 1px solid var(--rule);
  padding: 6px 0;
}

summary {
  font-weight: 700;
  cursor: pointer;
  padding: 4px 0;
}

.panel > * {
  margin-bottom: 8px;
}

.contact {
  display: grid;
  gap: 4px;
  border-left: 2px solid var(--rule);
  padding-left: 8px;
}

.remove {
  justify-self: start;
  font-size: 13px;
  font-weight: 600;
  color: var(--pine);
}
</style>
