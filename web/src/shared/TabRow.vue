<script setup lang="ts">
/** The parts of a page; the one shown stands in the address, so that it can be linked to and survives a reload. */
import { useRoute, useRouter } from 'vue-router'

const props = defineProps<{ parts: readonly { key: string; title: string }[]; label: string }>()
const route = useRoute()
const router = useRouter()
const shown = defineModel<string>({ required: true })
// An address may name a part that is not there, or no longer.
const asked = route.query['part']
const known = props.parts.find((part) => part.key === asked) ?? props.parts[0]
if (known) shown.value = known.key

function show(key: string): void {
  shown.value = key
  void router.replace({ query: { ...route.query, part: key } })
}

function onKey(event: KeyboardEvent): void {
  const by = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0
  const next = props.parts[props.parts.findIndex((part) => part.key === shown.value) + by]
  if (!by || !next) return
  event.preventDefault()
  show(next.key)
  ;(event.currentTarget as HTMLElement).querySelector<HTMLElement>(`[data-part="${next.key}"]`)?.focus()
}
</script>

<template>
  <div class="tabs" role="tablist" :aria-label="label" @keydown="onKey">
    <button
      v-for="part in parts"
      :key="part.key"
      type="button"
      role="tab"
      :aria-selected="shown === part.key"
      :tabindex="shown === part.key ? 0 : -1"
      :data-part="part.key"
      @click="show(part.key)"
    >
      {{ part.title }}
    </button>
  </div>
</template>

<style scoped>
.tabs {
  display: flex;
  flex-wrap: wrap;
  gap: 0 clamp(12px, 1.5vw, 20px);
  border-bottom: 1px solid var(--ink);
  margin: 0 0 12px;
}

button {
  padding: 4px 1px 5px;
  font-weight: 600;
  color: var(--slate);
  border-bottom: 3px solid transparent;
  margin-bottom: -1px;
}

button[aria-selected='true'] {
  color: var(--ink);
  border-bottom-color: var(--ember);
}

@media (max-width: 640px) {
  .tabs {
    gap: 0 18px;
  }

  button {
    min-height: 40px;
  }
}
</style>
