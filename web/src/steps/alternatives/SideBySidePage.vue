<script setup lang="ts">
/** Alternatives of one design: what differs, what each comes to, and what each difference alone is worth. */
import { storeToRefs } from 'pinia'
import { computed, ref, watch } from 'vue'

import { api, outcome, refusal, SILENT, type PartKey } from '@/api/client'
import { useDesign } from '@/design/store'
import TabRow from '@/shared/TabRow.vue'

import DifferenceStairs from './DifferenceStairs.vue'
import LaidStrips from '@/strip/LaidStrips.vue'

import { useSideBySide } from './sideBySide'
import VariantTable from './VariantTable.vue'
import VariantTree from './VariantTree.vue'

const PARTS = [
  { key: 'figures', title: 'Figures' },
  { key: 'strips', title: 'Strips' },
  { key: 'differences', title: 'What makes the difference' },
] as const
const store = useDesign()
const { document, id } = storeToRefs(store)
const side = useSideBySide()
const { tree, root, laid, trouble } = side
const part = ref<string>('figures')
const picked = ref('')
const others = computed(() => laid.value.filter((one) => !one.isRoot))
const compared = computed(() => others.value.find((one) => one.variant.id === picked.value) ?? null)
watch(others, () => {
  if (!compared.value) picked.value = others.value[0]?.variant.id ?? ''
})
const strips = computed(() =>
  laid.value.flatMap(({ variant, title, column }) => (column ? [{ ...column, key: variant.id, title }] : [])),
)
const told = ref('')
/** Parts go into the design that is open: from the one compared, or, where that is open, from the design itself. */
const source = computed(() => (compared.value?.isOpen ? root.value?.id : compared.value?.variant.id) ?? '')

async function takePart(key: PartKey): Promise<void> {
  const params = { path: { design_id: id.value }, query: { source: source.value, part: key } }
  const answer = await outcome(api.GET('/api/designs/{design_id}/swapped', { params }))
  told.value =
    answer.kind === 'answer'
      ? 'The part is in the design that is open; undo takes it back.'
      : answer.kind === 'refused'
        ? refusal(answer.problem)
        : SILENT
  if (answer.kind === 'answer') store.replace(answer.value)
}
</script>

<template>
  <div v-if="document" class="side">
    <p v-if="trouble" class="trouble" role="alert">{{ trouble }}</p>
    <p v-if="tree.length < 2" class="lesser intro" data-test="no-alternatives">
      An alternative is the design once more, to be changed without touching this one. Keep one here, or take
      a rule of thumb’s kit from the page Opinions.
    </p>
    <VariantTree :side="side" />
    <template v-if="laid.length > 1">
      <TabRow v-model="part" :parts="PARTS" label="Side by side" />
      <VariantTable v-if="part === 'figures'" v-model="picked" :laid="laid" />
      <LaidStrips v-else-if="part === 'strips'" :laid="strips" label="Strips of the alternatives" />
      <template v-else>
        <label class="choice">
          From the design to
          <select v-model="picked" data-test="compared">
            <option v-for="one in others" :key="one.variant.id" :value="one.variant.id">
              {{ one.title }}
            </option>
          </select>
        </label>
        <p v-if="told" class="told" role="status">{{ told }}</p>
        <DifferenceStairs
          v-if="compared?.worth"
          :worth="compared.worth"
          base-title="The design"
          :other-title="compared.title"
          :may-take="source !== ''"
          @take="(key) => takePart(key as PartKey)"
        />
      </template>
    </template>
  </div>
</template>

<style scoped>
.intro {
  max-width: 96ch;
  margin: 0 0 8px;
}

.trouble {
  color: var(--wine);
}

.choice {
  display: flex;
  gap: 8px;
  align-items: baseline;
  margin-bottom: 6px;
}

.choice select {
  font: inherit;
  font-weight: 600;
  max-width: 320px;
}

.told {
  margin: 0 0 6px;
  font-weight: 600;
}
</style>
