<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { useRouter } from 'vue-router'

import { api, outcome, type DesignSummary, type Outcome, refusal, type StartOffered } from '@/api/client'
import { LONGEST_NAME } from '@/fields/limits'
import PageBar from '@/shared/PageBar.vue'
import TopBar from '@/shell/TopBar.vue'

import BackupNote from './BackupNote.vue'
import DeletedDesigns from './DeletedDesigns.vue'
import DesignTable from './DesignTable.vue'
import ImportButton from './ImportButton.vue'
import PatternsDialog from './PatternsDialog.vue'
import { PER_PAGE, useDesignPages } from './useDesignPages'

const router = useRouter()
const inUse = useDesignPages(false)
const gone = useDesignPages(true)
const isLoaded = ref(false)
/** What the last act came to, and whether the list itself could be had. */
const trouble = ref('')
const isSilent = ref(false)
const isChoosing = ref(false)
/** The design deleted last, so that it can be brought back at once. */
const justDeleted = ref<DesignSummary | null>(null)
const SILENT = 'Hearth Keep is not answering. Start it again with ./hearth start, then reload this page.'

async function load(): Promise<void> {
  const answered = await Promise.all([inUse.load(), gone.load()])
  isSilent.value = answered.includes(false)
  isLoaded.value = true
}

/** Tell what an act came to; its answer where it has one. */
function told<T>(result: Outcome<T>): { value: T } | null {
  trouble.value =
    result.kind === 'refused'
      ? refusal(result.problem)
      : result.kind === 'silent'
        ? 'Hearth Keep is not answering; nothing was changed.'
        : ''
  return result.kind === 'answer' ? result : null
}

/** A new design; without a name it has its pattern's. */
async function begin(start: StartOffered['start']): Promise<void> {
  isChoosing.value = false
  const made = told(await outcome(api.POST('/api/designs', { body: { start } })))
  if (made) await router.push({ name: 'storm', params: { id: made.value.id } })
}

async function duplicate(design: DesignSummary): Promise<void> {
  const name = `${design.name.slice(0, 112)} (copy)`
  const params = { path: { design_id: design.id } }
  if (told(await outcome(api.POST('/api/designs/{design_id}/duplicate', { params, body: { name } }))))
    await load()
}

async function remove(design: DesignSummary): Promise<void> {
  const params = { path: { design_id: design.id } }
  if (!told(await outcome(api.DELETE('/api/designs/{design_id}', { params })))) return
  justDeleted.value = design
  await load()
}

async function restore(design: DesignSummary): Promise<void> {
  const params = { path: { design_id: design.id } }
  if (!told(await outcome(api.POST('/api/designs/{design_id}/restore', { params })))) return
  justDeleted.value = null
  await load()
}

onMounted(() => {
  document.title = 'Designs · Hearth Keep'
  void load()
})

/** What was opened is shown; where there is something to know about it, that is read first. */
async function took(id: string, note: string): Promise<void> {
  if (!note) {
    await router.push({ name: 'loads', params: { id } })
    return
  }
  await inUse.load()
  trouble.value = note
}
</script>

<template>
  <div class="shell">
    <TopBar><span>Designs</span></TopBar>
    <main class="page">
      <div class="heading">
        <h1>Designs</h1>
        <span class="lesser">each a house or a portable unit, and the outage it must live through</span>
        <span class="actions">
          <v-btn variant="flat" color="pine" data-test="new-home" @click="begin('home')">New home</v-btn>
          <v-btn variant="outlined" color="pine" data-test="new-portable" @click="begin('portable')"
            >New portable</v-btn
          >
          <v-btn variant="outlined" color="pine" data-test="new-pattern" @click="isChoosing = true"
            >From a pattern</v-btn
          >
          <ImportButton @imported="took" @trouble="trouble = $event" />
        </span>
      </div>
      <p v-if="trouble || isSilent" class="trouble" role="alert">{{ trouble || SILENT }}</p>
      <p v-if="justDeleted" class="told" role="status">
        “{{ justDeleted.name }}” was deleted.
        <button type="button" class="link" data-test="undo-delete" @click="restore(justDeleted)">
          Bring it back
        </button>
      </p>
      <input
        v-if="inUse.words.value || inUse.pages.value > 1"
        v-model="inUse.words.value"
        class="seek"
        placeholder="Seek by name"
        aria-label="Seek a design by name"
        :maxlength="LONGEST_NAME"
        data-test="seek-design"
      />
      <DesignTable
        v-if="inUse.designs.value.length"
        :designs="inUse.designs.value"
        @duplicate="duplicate"
        @remove="remove"
      />
      <p v-else-if="isLoaded && inUse.words.value" class="first">
        No design’s name holds “{{ inUse.words.value }}”.
      </p>
      <p v-else-if="isLoaded && !isSilent" class="first">
        No designs yet. Begin with a home, whose circuits stay on through an outage, with a portable unit that
        is carried to where it is needed, or from a pattern that is whole already.
      </p>
      <PageBar
        v-model="inUse.page.value"
        :total="inUse.total.value"
        :per-page="PER_PAGE"
        :pages="inUse.pages.value"
        what="designs"
      />
      <PatternsDialog v-if="isChoosing" @begin="begin" @close="isChoosing = false" />
      <DeletedDesigns v-if="gone.total.value" :pages="gone" @restore="restore" />
      <BackupNote />
    </main>
  </div>
</template>

<style scoped>
.page {
  overflow-y: auto;
  padding: 22px 28px;
  max-width: 1400px;
  width: 100%;
}

.heading {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 14px;
  margin-bottom: 18px;
}

.actions {
  margin-left: auto;
  display: flex;
  gap: 8px;
}

.seek {
  width: min(360px, 100%);
  margin-bottom: 12px;
  padding: 5px 8px;
  border: 1px solid var(--slate);
}

.trouble {
  color: var(--wine);
  font-weight: 700;
}

.link {
  color: var(--pine);
  font-weight: 700;
  text-decoration: underline;
}

.first {
  max-width: 560px;
  font-size: 16px;
}

@media (max-width: 640px) {
  .page {
    padding: 14px 10px;
  }

  .heading {
    display: grid;
    gap: 8px;
  }

  .actions {
    margin-left: 0;
    flex-wrap: wrap;
  }
}
</style>
