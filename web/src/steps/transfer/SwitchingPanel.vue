<script setup lang="ts">
/** The switching card: each step with what must be seen before the next, and what must not be done. */
import { computed } from 'vue'

import { useDesign } from '@/design/store'
import WideTable from '@/shared/WideTable.vue'

const store = useDesign()
const card = computed(() => store.assessment?.switching ?? null)
</script>

<template>
  <div v-if="card" data-test="switching">
    <ul class="throughout" aria-label="Throughout">
      <li v-for="line in card.throughout" :key="line">{{ line }}</li>
    </ul>
    <section v-for="way in card.ways" :key="way.kind">
      <h2>{{ way.title }}</h2>
      <WideTable :label="way.title"
        ><table class="ledger">
          <thead>
            <tr>
              <th scope="col" class="number">Step</th>
              <th scope="col">Do</th>
              <th scope="col">See, before the next</th>
              <th scope="col">Never</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(step, at) in way.steps" :key="at">
              <td class="number">{{ at + 1 }}</td>
              <td>{{ step.do }}</td>
              <td>{{ step.check || '–' }}</td>
              <td class="never">{{ step.never || '–' }}</td>
            </tr>
          </tbody>
        </table></WideTable
      >
    </section>
  </div>
</template>

<style scoped>
.throughout {
  margin: 0 0 12px;
  padding: 6px 10px 6px 26px;
  border-left: 4px solid var(--wine);
  background: var(--sheet);
}

h2 {
  margin: 12px 0 4px;
}

td {
  padding-top: 5px;
  padding-bottom: 5px;
  vertical-align: top;
}

table {
  table-layout: fixed;
  min-width: 600px;
}

th:first-child {
  width: 46px;
}

th:nth-child(2) {
  width: 42%;
}

.never {
  color: var(--wine);
}
</style>
