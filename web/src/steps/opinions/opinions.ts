/** What the Opinions page asks about the open design; kept while other pages are looked at, and then known as old. */
import { defineStore, storeToRefs } from 'pinia'
import { computed, ref, shallowRef } from 'vue'

import { api, outcome, refusal, SILENT, type Design, type KitColumn, type KitShare } from '@/api/client'
import { createSlowAnswer } from '@/api/slowAnswer'
import { useDesign } from '@/design/store'

export type KitName = KitColumn['kit']

export const useOpinions = defineStore('opinions', () => {
  const answer = createSlowAnswer((body) => outcome(api.POST('/api/opinions', { body })))
  const report = answer.value
  /** All columns in the order in which they are shown. */
  const columns = computed<KitColumn[]>(() => {
    const found = report.value
    if (!found) return []
    return [found.designed, ...found.opinions.map((one) => one.column), ...(found.model ? [found.model] : [])]
  })
  /** For the rail: how many of the six would carry the outage; of an earlier state of the design it is said so. */
  const told = computed(() => {
    if (!report.value?.is_asked) return '–'
    const carried = report.value.opinions.filter((one) => one.column.is_carried).length
    return `${answer.isCurrent.value ? '' : 'was '}${carried} of ${report.value.opinions.length}`
  })
  return { ...answer, report, columns, told }
})

/** Shares of the year take a second each: asked kit by kit, and left off where the design moves on. */
export const useKitShares = defineStore('kit-shares', () => {
  const { document } = storeToRefs(useDesign())
  const shares = shallowRef<Partial<Record<KitName, KitShare>>>({})
  const trouble = ref('')
  /** The document that the shares are about. */
  const about = shallowRef<Design | null>(null)
  let newest = 0

  async function ask(kits: readonly KitName[]): Promise<void> {
    const body = document.value
    if (!body || about.value === body) return
    const ticket = ++newest
    about.value = body
    shares.value = {}
    trouble.value = ''
    for (const kit of kits) {
      const answer = await outcome(api.POST('/api/opinions/share', { params: { query: { kit } }, body }))
      if (ticket !== newest) return
      if (answer.kind === 'answer') shares.value = { ...shares.value, [kit]: answer.value }
      else trouble.value = answer.kind === 'refused' ? refusal(answer.problem) : SILENT
    }
  }

  /** Leave what is under way: the design has moved on. */
  function leave(): void {
    newest += 1
    about.value = null
    shares.value = {}
  }

  return { shares, trouble, ask, leave }
})
