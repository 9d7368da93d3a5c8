<script setup lang="ts">
import { storeToRefs } from 'pinia'
import { useRouter } from 'vue-router'

import { useDesign } from '@/design/store'
import { hours, savedAt } from '@/shared/format'

const store = useDesign()
const { conflict, assessment, saveState } = storeToRefs(store)
const router = useRouter()

async function bringBack(): Promise<void> {
  const other = await store.bringBack()
  if (other) await router.replace(`/designs/${other}/loads`)
}
</script>

<template>
  <section v-if="conflict" class="banner" role="alert" data-test="conflict">
    <p>
      <strong>Another window saved revision {{ conflict.theirs.revision }}</strong> at
      {{ savedAt(conflict.theirs.saved_at) }}, while this one held unsaved changes. Theirs carries
      {{ conflict.theirHours === null ? 'an unknown time' : hours(conflict.theirHours) }}, yours
      {{ assessment ? hours(assessment.outage.hours_carried_h) : 'an unknown time' }}. Whichever you take, the
      other stays one step away in undo and redo.
    </p>
    <v-btn variant="flat" color="pine" data-test="take-mine" @click="store.settle('mine')"
      >Take this window's</v-btn
    >
    <v-btn variant="outlined" color="ink" data-test="take-theirs" @click="store.settle('theirs')"
      >Take the saved one</v-btn
    >
  </section>
  <section v-else-if="saveState === 'gone'" class="banner" role="alert" data-test="gone">
    <p>
      <strong>This design was deleted in another window.</strong> What stands here is kept in this window
      only.
    </p>
    <v-btn variant="flat" color="pine" data-test="bring-back" @click="bringBack"
      >Bring it back and save</v-btn
    >
  </section>
</template>

<style scoped>
.banner {
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 10px 20px;
  background: var(--sheet);
  border-bottom: 2px solid var(--wine);
}

.banner p {
  margin: 0;
  flex: 1;
}
</style>
