<script setup lang="ts">
/** Designs that were deleted and can be brought back with their history. */
import type { DesignSummary } from '@/api/client'
import { count } from '@/shared/format'
import PageBar from '@/shared/PageBar.vue'

import { PER_PAGE, type DesignPages } from './useDesignPages'

const props = defineProps<{ pages: DesignPages }>()
const { designs, total, page, pages: most } = props.pages
const emit = defineEmits<{ restore: [design: DesignSummary] }>()
</script>

<template>
  <details class="deleted">
    <summary>Deleted designs ({{ count(total) }})</summary>
    <table class="ledger">
      <tbody>
        <tr v-for="design in designs" :key="design.id">
          <td class="name">{{ design.name }}</td>
          <td class="lesser">revision {{ design.revision }}</td>
          <td class="row-actions">
            <v-btn
              size="small"
              color="pine"
              :aria-label="`Restore ${design.name}`"
              @click="emit('restore', design)"
              >Restore</v-btn
            >
          </td>
        </tr>
      </tbody>
    </table>
    <PageBar v-model="page" :total="total" :per-page="PER_PAGE" :pages="most" what="deleted designs" />
  </details>
</template>

<style scoped>
.deleted {
  margin-top: 28px;
}

.deleted summary {
  cursor: pointer;
  color: var(--slate);
}

.row-actions {
  white-space: nowrap;
}
</style>
