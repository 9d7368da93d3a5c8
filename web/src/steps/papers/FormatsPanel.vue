<script setup lang="ts">
/** The design in open formats, to be used elsewhere. */
import { storeToRefs } from 'pinia'
import { computed } from 'vue'

import { useDesign } from '@/design/store'

const { id } = storeToRefs(useDesign())
const formats = computed(() => [
  {
    key: 'bundle',
    title: 'Bundle',
    href: `/api/designs/${id.value}/bundle.zip`,
    meaning:
      'the design, its weather year, its units, alternatives and results; opens on another machine to the same figures',
  },
  {
    key: 'workbook',
    title: 'Workbook with formulas',
    href: `/api/designs/${id.value}/workbook.xlsx`,
    meaning: 'audit, sizing sheet and wiring sums, worked out anew by a spreadsheet',
  },
  {
    key: 'calendar',
    title: 'Calendar of upkeep and tests',
    href: `/api/designs/${id.value}/upkeep.ics`,
    meaning: 'for any calendar program',
  },
  {
    key: 'outage-hours',
    title: 'The outage, step by step',
    href: `/api/designs/${id.value}/outage.csv`,
    meaning: 'energy, sun, generator, loads and what went unserved',
  },
  {
    key: 'year-hours',
    title: 'The year, hour by hour',
    href: `/api/designs/${id.value}/year.csv`,
    meaning: 'sun on the arrays and the house through the weather year',
  },
  {
    key: 'design',
    title: 'Design document',
    href: `/api/designs/${id.value}/design.json`,
    meaning: 'JSON, by a published schema',
  },
  {
    key: 'schema',
    title: 'Its schema',
    href: '/api/design-schema.json',
    meaning: 'JSON Schema of the document',
  },
])
</script>

<template>
  <details class="panel" open data-test="formats">
    <summary>Take it elsewhere</summary>
    <ul>
      <li v-for="format in formats" :key="format.key">
        <a :href="format.href" download :data-test="`take-${format.key}`">{{ format.title }}</a>
        <span class="lesser">: {{ format.meaning }}</span>
      </li>
    </ul>
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

ul {
  list-style: none;
  padding: 0;
  margin: 0;
}

li {
  font-size: 13px;
  line-height: 1.35;
  padding: 3px 0;
}

a {
  font-weight: 600;
  color: var(--pine);
}
</style>
