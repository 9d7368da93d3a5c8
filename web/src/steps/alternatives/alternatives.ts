/** How many alternatives the open design has, for the rail; none known before it has been asked. */
import { defineStore, storeToRefs } from 'pinia'
import { computed, ref, watch } from 'vue'

import { api, outcome } from '@/api/client'
import { useDesign } from '@/design/store'

export const useAlternatives = defineStore('alternatives', () => {
  const { id } = storeToRefs(useDesign())
  const number = ref<number | null>(null)

  function put(count: number): void {
    number.value = count
  }

  watch(
    id,
    async (designId) => {
      number.value = null
      if (!designId) return
      const params = { path: { design_id: designId } }
      const answer = await outcome(api.GET('/api/designs/{design_id}/alternatives', { params }))
      if (answer.kind === 'answer' && designId === id.value)
        put(answer.value.filter((variant) => variant.parent_id && !variant.deleted_at).length)
    },
    { immediate: true },
  )
  const told = computed(() => (number.value ? `${number.value} kept` : '–'))
  return { told, put }
})
