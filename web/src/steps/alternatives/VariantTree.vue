<script setup lang="ts">
/** The tree of alternatives: which are laid side by side, and what can be done with each. */
import { storeToRefs } from 'pinia'
import { computed, ref } from 'vue'
import { RouterLink } from 'vue-router'

import { api, outcome, type Variant } from '@/api/client'
import { useDesign } from '@/design/store'
import { savedAt } from '@/shared/format'

import { LEAST_COLUMNS, MOST_COLUMNS, type SideBySide } from './sideBySide'

const props = defineProps<{ side: SideBySide }>()
const store = useDesign()
const { id } = storeToRefs(store)
const { tree, root, chosen, act, choose, titleOf, kept } = props.side
const label = ref('')
const told = ref('')
/** The one that is being renamed. */
const renaming = ref('')

const depthOf = (variant: Variant): number => {
  const parent = tree.value.find((entry) => entry.id === variant.parent_id)
  return parent ? 1 + depthOf(parent) : 0
}
/** Children behind their parents, as a tree reads. */
const rows = computed(() => {
  const found: { variant: Variant; depth: number }[] = []
  const walk = (parent: string | null) => {
    for (const variant of tree.value.filter((entry) => (entry.parent_id ?? null) === parent)) {
      found.push({ variant, depth: depthOf(variant) })
      walk(variant.id)
    }
  }
  walk(null)
  return found
})
const inUse = computed(() => rows.value.filter(({ variant }) => !variant.deleted_at))
const removed = computed(() => tree.value.filter((variant) => variant.deleted_at))
const openTitle = computed(() => {
  const open = tree.value.find((variant) => variant.id === id.value)
  return open ? titleOf(open) : 'The design'
})

async function keep(): Promise<void> {
  const name = label.value.trim() || `Alternative ${kept.value.length}`
  const params = { path: { design_id: id.value } }
  if (
    await act(
      outcome(
        api.POST('/api/designs/{design_id}/alternatives', { params, body: { label: name.slice(0, 60) } }),
      ),
    )
  ) {
    label.value = ''
    told.value = `“${name}” is kept: open it to change it.`
  }
}

async function rename(variant: Variant, name: string): Promise<void> {
  renaming.value = ''
  const typed = name.trim().slice(0, 60)
  if (!typed || typed === variant.label) return
  const params = { path: { design_id: variant.id } }
  await act(outcome(api.PUT('/api/designs/{design_id}/label', { params, body: { label: typed } })))
}

async function promote(variant: Variant): Promise<void> {
  if (!root.value) return
  // What is being edited is saved first, and is then of the newest revision.
  if (id.value === root.value.id) await store.reload()
  const expected_revision = id.value === root.value.id ? store.revision : root.value.revision
  const params = { path: { design_id: variant.id }, query: { expected_revision } }
  const body = { label: `Before ${variant.label}`.slice(0, 60) }
  if (await act(outcome(api.POST('/api/designs/{design_id}/promote', { params, body })))) {
    told.value = `“${variant.label}” is the design now; what it was is kept as “${body.label}”.`
    // The open design may be the one that has just become another.
    if (id.value === root.value.id) await store.reload()
  }
}

async function remove(variant: Variant): Promise<void> {
  const params = { path: { design_id: variant.id } }
  if (await act(outcome(api.DELETE('/api/designs/{design_id}', { params }))))
    told.value = `“${variant.label}” is set aside; it can be brought back below.`
}

async function restore(variant: Variant): Promise<void> {
  const params = { path: { design_id: variant.id } }
  await act(outcome(api.POST('/api/designs/{design_id}/restore', { params })))
}
</script>

<template>
  <section class="tree">
    <form class="keep" @submit.prevent="keep">
      <input
        v-model="label"
        maxlength="60"
        placeholder="Name of the alternative"
        aria-label="Name of the alternative"
        data-test="alternative-name"
      />
      <v-btn type="submit" size="small" variant="outlined" color="pine" data-test="keep-alternative"
        >Keep {{ openTitle === 'The design' ? 'the design' : `“${openTitle}”` }} as an alternative</v-btn
      >
    </form>
    <p v-if="told" class="told" role="status" data-test="tree-told">{{ told }}</p>
    <ul v-if="tree.length > 1" class="rows" data-test="variants">
      <li
        v-for="{ variant, depth } in inUse"
        :key="variant.id"
        :style="{ paddingLeft: `${depth * 18}px` }"
        :data-test="`variant-${variant.label || 'root'}`"
      >
        <label class="pick">
          <input
            type="checkbox"
            :checked="chosen.includes(variant.id)"
            :disabled="
              chosen.includes(variant.id) ? chosen.length <= LEAST_COLUMNS : chosen.length >= MOST_COLUMNS
            "
            :aria-label="`Lay ${titleOf(variant)} beside the others`"
            @change="choose(variant.id, ($event.target as HTMLInputElement).checked)"
          />
          <input
            v-if="renaming === variant.id"
            class="rename"
            maxlength="60"
            :value="variant.label"
            :aria-label="`New name of ${variant.label}`"
            @change="rename(variant, ($event.target as HTMLInputElement).value)"
            @blur="renaming = ''"
            @keydown.esc.stop="renaming = ''"
          />
          <b v-else :class="{ open: variant.id === id }">{{ titleOf(variant) }}</b>
        </label>
        <span class="lesser">saved {{ savedAt(variant.saved_at) }}</span>
        <span v-if="variant.id === id" class="lesser">open here</span>
        <span class="acts">
          <RouterLink v-if="variant.id !== id" :to="{ name: 'side-by-side', params: { id: variant.id } }"
            >Open</RouterLink
          >
          <template v-if="variant.parent_id">
            <button type="button" :aria-label="`Rename ${variant.label}`" @click="renaming = variant.id">
              Rename
            </button>
            <button
              type="button"
              :aria-label="`Make it the design: ${variant.label}`"
              data-test="promote"
              @click="promote(variant)"
            >
              Make it the design
            </button>
            <button
              v-if="variant.id !== id"
              type="button"
              class="aside"
              :aria-label="`Set aside: ${variant.label}`"
              @click="remove(variant)"
            >
              Set aside
            </button>
          </template>
        </span>
      </li>
    </ul>
    <p v-if="removed.length" class="lesser removed">
      Set aside:
      <template v-for="variant in removed" :key="variant.id">
        {{ variant.label }}
        <button type="button" :aria-label="`Bring it back: ${variant.label}`" @click="restore(variant)">
          Bring it back</button
        >.
      </template>
    </p>
  </section>
</template>

<style scoped>
.keep {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
  margin-bottom: 6px;
}

.keep input {
  width: min(260px, 100%);
  padding: 3px 8px;
  border: 1px solid var(--slate);
}

.told {
  margin: 0 0 6px;
  font-weight: 600;
}

.rows {
  list-style: none;
  margin: 0 0 8px;
  padding: 0;
}

li {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 12px;
  align-items: baseline;
  padding: 3px 0;
  border-top: 1px solid var(--rule);
}

.pick {
  display: inline-flex;
  gap: 7px;
  align-items: center;
  min-width: 180px;
  overflow-wrap: anywhere;
}

.open {
  text-decoration: underline;
  text-decoration-color: var(--ember);
  text-decoration-thickness: 2px;
  text-underline-offset: 3px;
}

.rename {
  border: 1px solid var(--slate);
  padding: 1px 5px;
}

.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
  margin-left: auto;
}

.acts > *,
.removed button {
  color: var(--pine);
  font-weight: 700;
  text-decoration: underline;
  text-underline-offset: 2px;
}

.acts .aside {
  color: var(--wine);
}
</style>
