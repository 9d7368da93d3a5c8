<script setup lang="ts">
/** Drill: a storm with surprises lived in fast time on one's own design, and its account. */
import { storeToRefs } from 'pinia'
import { onBeforeUnmount, watch } from 'vue'

import { useDesign } from '@/design/store'

import { useBuild } from '../build/build'
import { useDrill } from './drill'
import DrillAccount from './DrillAccount.vue'
import DrillPlay from './DrillPlay.vue'
import DrillStart from './DrillStart.vue'
import FamilyPlay from './FamilyPlay.vue'

const { id, document } = storeToRefs(useDesign())
const build = useBuild()
const store = useDrill()
const { drill, stand, account, trouble } = storeToRefs(store)
watch(id, () => void build.open(), { immediate: true })
watch(
  document,
  () => {
    if (drill.value && !account.value) void store.look()
  },
  { immediate: true },
)
onBeforeUnmount(() => (trouble.value = ''))
</script>

<template>
  <div v-if="document">
    <p v-if="trouble" class="trouble" role="alert" data-test="drill-trouble">{{ trouble }}</p>
    <DrillStart v-if="!drill" />
    <template v-else-if="stand">
      <DrillAccount v-if="account" :account="account" :stand="stand" />
      <p v-else-if="stand.is_over" class="lesser">Help is there. The account is being drawn up…</p>
      <FamilyPlay v-else-if="drill.mode === 'family'" :stand="stand" />
      <DrillPlay v-else :stand="stand" />
    </template>
    <p v-else class="lesser">
      The storm is coming up…
      <button v-if="trouble" type="button" class="leave" data-test="drill-leave" @click="store.leave()">
        Leave this drill
      </button>
    </p>
  </div>
</template>

<style scoped>
.trouble {
  border-left: 3px solid var(--wine);
  padding-left: 10px;
}

.leave {
  min-height: 40px;
  padding: 0 14px;
  border: 1px solid var(--slate);
}
</style>
