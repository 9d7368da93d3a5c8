<script setup lang="ts">
import { storeToRefs } from 'pinia'

import { useDesign } from '@/design/store'
import { hours, savedAt } from '@/shared/format'

const store = useDesign()
const { conflict, assessment } = storeToRefs(store)
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
