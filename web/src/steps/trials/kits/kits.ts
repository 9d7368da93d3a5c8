/** Kit searches of the open design: what is asked, how far it is, what it found, and one of the past beside it. */
import { defineStore, storeToRefs } from 'pinia'
import { computed, ref, shallowRef } from 'vue'

import {
  api,
  outcome,
  refusal,
  SILENT,
  type KitRanges,
  type KitSearch,
  type KitSearchFound,
  type Outcome,
} from '@/api/client'
import { useDesign } from '@/design/store'

const LOOK_EVERY_MS = 700

export const useKits = defineStore('kits', () => {
  const { id } = storeToRefs(useDesign())
  /** The design that everything here is about. */
  const about = ref('')
  const ranges = shallowRef<KitRanges | null>(null)
  const searches = shallowRef<KitSearch[]>([])
  const shown = shallowRef<KitSearchFound | null>(null)
  const beside = shallowRef<KitSearchFound | null>(null)
  const trouble = ref('')
  let looking: ReturnType<typeof setTimeout> | undefined

  const found = computed(() => (about.value === id.value ? shown.value : null))

  /** The answer's value; none for one that failed, or that is about a design left meanwhile. */
  async function answered<T>(question: Promise<Outcome<T>>): Promise<T | null> {
    const asked = id.value
    const answer = await question
    if (asked !== id.value) return null
    trouble.value =
      answer.kind === 'answer' ? '' : answer.kind === 'refused' ? refusal(answer.problem) : SILENT
    return answer.kind === 'answer' ? answer.value : null
  }
  const ofDesign = () => ({ params: { path: { design_id: id.value } } })
  const ofSearch = (search_id: string) => ({ params: { path: { search_id } } })

  /** The searches of the open design, the last one shown; without any, the ranges to begin with. */
  async function open(): Promise<void> {
    if (about.value !== id.value) {
      about.value = id.value
      ranges.value = shown.value = beside.value = null
      searches.value = []
      trouble.value = ''
    }
    const kept = await answered(outcome(api.GET('/api/designs/{design_id}/kit-searches', ofDesign())))
    if (!kept) return
    searches.value = kept
    const last = kept[0]
    if (last) {
      ranges.value ??= last.ranges
      if (!shown.value) await show(last.id)
      else follow()
    } else
      ranges.value ??= await answered(
        outcome(api.GET('/api/designs/{design_id}/kit-searches/usual', ofDesign())),
      )
  }

  async function look(search_id: string): Promise<KitSearchFound | null> {
    return answered(outcome(api.GET('/api/kit-searches/{search_id}', ofSearch(search_id))))
  }

  /** Show a search of the past; the fields take its ranges. */
  async function show(search_id: string): Promise<void> {
    const answer = await look(search_id)
    if (!answer) return
    shown.value = answer
    ranges.value = answer.search.ranges
    if (beside.value?.search.id === search_id) beside.value = null
    follow()
  }

  async function compare(search_id: string): Promise<void> {
    beside.value = search_id ? await look(search_id) : null
  }

  async function ask(): Promise<void> {
    if (!ranges.value) return
    const search = await answered(
      outcome(api.POST('/api/designs/{design_id}/kit-searches', { ...ofDesign(), body: ranges.value })),
    )
    if (!search) return
    if (shown.value?.report.kits.length) beside.value = shown.value
    searches.value = [search, ...searches.value]
    await show(search.id)
  }

  async function cancel(): Promise<void> {
    const search = shown.value?.search
    if (!search) return
    await answered(outcome(api.POST('/api/kit-searches/{search_id}/cancel', ofSearch(search.id))))
    await show(search.id)
  }

  async function forget(): Promise<void> {
    const search = shown.value?.search
    if (!search) return
    const answer = await outcome(api.DELETE('/api/kit-searches/{search_id}', ofSearch(search.id)))
    if (answer.kind === 'silent') trouble.value = SILENT
    else {
      shown.value = null
      await open()
    }
  }

  /** Look again and again while the search goes on: at its progress often, at its kits when there are a tenth more. */
  function follow(): void {
    clearTimeout(looking)
    if (!shown.value?.search.is_live) return
    looking = setTimeout(async () => {
      const now = found.value
      if (!now) return
      const search = await answered(
        outcome(api.GET('/api/kit-searches/{search_id}/progress', ofSearch(now.search.id))),
      )
      if (search && found.value?.search.id === search.id) {
        const isMuchMore = search.done >= 1.1 * now.report.kits.length && search.done > now.report.kits.length
        const whole = !search.is_live || isMuchMore ? await look(search.id) : null
        if (found.value?.search.id === search.id) shown.value = whole ?? { ...now, search }
        searches.value = searches.value.map((entry) => (entry.id === search.id ? search : entry))
      }
      follow()
    }, LOOK_EVERY_MS)
  }

  const leave = () => clearTimeout(looking)

  return {
    ranges,
    searches,
    found,
    beside,
    trouble,
    open,
    show,
    compare,
    ask,
    cancel,
    forget,
    leave,
    answered,
  }
})
