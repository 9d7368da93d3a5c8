<script setup lang="ts">
/** Designs that were deleted and can be brought back with their history. */
import type { DesignSummary } from '@/api/client'

defineProps<{ designs: readonly DesignSummary[] }>()
const emit = defineEmits<{ restore: [design: DesignSummary] }>()
</script>

<template>
  <details class="deleted">
    <summary>Deleted designs ({{ designs.length }})</summary>
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
