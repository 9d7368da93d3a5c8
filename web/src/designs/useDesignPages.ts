/** The list of designs by pages, sought in by name: the designs in use, or the deleted ones. */
import { useDebounceFn, useTimeoutFn } from '@vueuse/core'
import { computed, ref, shallowRef, watch, type ComputedRef, type Ref, type ShallowRef } from 'vue'

import { api, outcome, type DesignSummary } from '@/api/client'

export const PER_PAGE = 50
const ASK_AGAIN_MS = 700

export interface DesignPages {
  designs: Readonly<ShallowRef<readonly DesignSummary[]>>
  /** How many there are on all pages, of those that hold the words sought. */
  total: Readonly<Ref<number>>
  words: Ref<string>
  page: Ref<number>
  pages: ComputedRef<number>
  /** Ask for the page anew; false where there is no answer. */
  load: () => Promise<boolean>
}

export function useDesignPages(deleted: boolean): DesignPages {
  const designs = shallowRef<readonly DesignSummary[]>([])
  const total = ref(0)
  const words = ref('')
  const page = ref(1)
  const pages = computed(() => Math.max(1, Math.ceil(total.value / PER_PAGE)))
  let newest = 0

  async function load(): Promise<boolean> {
    const ticket = ++newest
    const query = { deleted, words: words.value, page: page.value, per_page: PER_PAGE }
    const answer = await outcome(api.GET('/api/designs', { params: { query } }))
    if (answer.kind !== 'answer') return false
    // A later question has overtaken this one.
    if (ticket !== newest) return true
    designs.value = answer.value.designs
    total.value = answer.value.total
    if (designs.value.some((design) => design.is_pending)) again.start()
    // The last design of the last page was taken away.
    if (page.value > pages.value) page.value = pages.value
    return true
  }

  // What a server that was just started is still working out is asked for again.
  const again = useTimeoutFn(() => void load(), ASK_AGAIN_MS, { immediate: false })
  const seek = useDebounceFn(load, 150)
  watch(page, () => void load())
  watch(words, () => {
    if (page.value === 1) void seek()
    else page.value = 1
  })

  return { designs, total, words, page, pages, load }
}
