<script setup lang="ts">
/** The designs in use, a row each; on a phone a block each. */
import { RouterLink } from 'vue-router'

import type { DesignSummary } from '@/api/client'
import { hours, kilowattHours, savedAt } from '@/shared/format'

/** Nothing is met where nothing asks. */
const isEmpty = (design: DesignSummary) => !design.figures?.daily_wh
defineProps<{ designs: readonly DesignSummary[] }>()
const emit = defineEmits<{ duplicate: [design: DesignSummary]; remove: [design: DesignSummary] }>()
</script>

<template>
  <table role="table" class="ledger designs" data-test="designs">
    <thead role="rowgroup">
      <tr role="row">
        <th scope="col" role="columnheader">Design</th>
        <th scope="col" role="columnheader">Place</th>
        <th scope="col" role="columnheader" class="number">Carried</th>
        <th scope="col" role="columnheader" class="number">Outage</th>
        <th scope="col" role="columnheader" class="number">Loads a day</th>
        <th scope="col" role="columnheader" class="number">Bank</th>
        <th scope="col" role="columnheader">Checks</th>
        <th scope="col" role="columnheader">Saved</th>
        <th scope="col" role="columnheader"><span class="visually-hidden">Actions</span></th>
      </tr>
    </thead>
    <tbody role="rowgroup">
      <tr v-for="design in designs" :key="design.id" role="row">
        <td role="cell" class="name">
          <RouterLink :to="{ name: 'loads', params: { id: design.id } }">{{ design.name }}</RouterLink>
          <span class="lesser">{{ design.figures?.kind }}</span>
        </td>
        <template v-if="design.figures">
          <td role="cell" class="place">{{ design.figures.place }}</td>
          <td
            role="cell"
            class="number"
            :class="
              isEmpty(design)
                ? 'lesser'
                : design.figures.hours_carried_h < design.figures.duration_h
                  ? 'short'
                  : 'whole'
            "
            :title="isEmpty(design) ? 'Nothing to carry yet' : undefined"
          >
            {{ isEmpty(design) ? '–' : hours(design.figures.hours_carried_h) }}
          </td>
          <td role="cell" class="number outage">{{ hours(design.figures.duration_h) }}</td>
          <td role="cell" class="number need">{{ kilowattHours(design.figures.daily_wh) }}</td>
          <td role="cell" class="number bank">{{ kilowattHours(design.figures.bank_wh) }}</td>
          <td role="cell" class="checks">
            <span v-if="design.figures.stops" class="stop">{{ design.figures.stops }} stop</span>
            <span v-if="design.figures.mends" class="mend">{{ design.figures.mends }} mend</span>
            <span v-if="!design.figures.stops && !design.figures.mends" class="lesser">none open</span>
          </td>
        </template>
        <td v-else-if="design.is_pending" role="cell" colspan="6" class="lesser" data-test="row-pending">
          being worked out
        </td>
        <td v-else role="cell" colspan="6" class="trouble" data-test="row-trouble">{{ design.trouble }}</td>
        <td role="cell" class="lesser saved">{{ savedAt(design.saved_at) }}</td>
        <td role="cell" class="row-actions">
          <a
            class="file"
            :href="`/api/designs/${design.id}/design.json`"
            download
            :aria-label="`Save file of ${design.name}`"
            >Save file</a
          >
          <v-btn
            size="small"
            color="pine"
            :aria-label="`Duplicate ${design.name}`"
            @click="emit('duplicate', design)"
            >Duplicate</v-btn
          >
          <v-btn
            size="small"
            color="wine"
            :aria-label="`Delete ${design.name}`"
            @click="emit('remove', design)"
            >Delete</v-btn
          >
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
.designs td {
  height: 40px;
}

.name {
  font-weight: 600;
  overflow-wrap: anywhere;
}

.name a {
  color: var(--ink);
  text-underline-offset: 3px;
  margin-right: 8px;
}

.name .lesser {
  font-weight: 400;
}

.place {
  overflow-wrap: anywhere;
  max-width: 220px;
}

.short {
  color: var(--wine);
  font-weight: 700;
}

.whole {
  color: var(--pine);
  font-weight: 700;
}

.checks span {
  margin-right: 8px;
  white-space: nowrap;
}

.trouble {
  color: var(--wine);
  overflow-wrap: anywhere;
}

.stop {
  color: var(--wine);
  font-weight: 700;
}

.mend {
  color: var(--ember-ink);
  font-weight: 700;
}

.saved,
.row-actions {
  white-space: nowrap;
}

.row-actions {
  text-align: right;
}

.file {
  color: var(--pine);
  font-weight: 700;
  font-size: 14px;
  vertical-align: middle;
  padding: 0 8px;
  text-decoration: none;
}

.file:hover {
  text-decoration: underline;
}

@media (max-width: 640px) {
  /* A block a design: its name, then what counts, then what can be done. */
  .designs thead,
  .designs .place,
  .designs .saved,
  .designs .outage,
  .designs .need,
  .designs .bank {
    display: none;
  }

  .designs tr {
    display: grid;
    grid-template-columns: auto 1fr;
    gap: 2px 14px;
    padding: 8px 0;
    border-bottom: 1px solid var(--rule);
  }

  .designs td {
    height: auto;
    padding: 0;
    border: 0;
    text-align: left;
  }

  .designs .name,
  .designs .trouble,
  .designs .row-actions {
    grid-column: 1 / -1;
    max-width: none;
    white-space: normal;
  }
}
</style>
