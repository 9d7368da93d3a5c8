/** The log of the chosen installation: its entries, its series, and what it says. */
import { defineStore, storeToRefs } from 'pinia'
import { computed, shallowRef, watch } from 'vue'

import {
  api,
  outcome,
  type KeptEntry,
  type LogOutlook,
  type QuantityInfo,
  type SeriesKept,
} from '@/api/client'
import { useDesign } from '@/design/store'

import { useBuild } from '../build/build'
import { useOutbox } from './outbox'

export const useLogbook = defineStore('logbook', () => {
  const { document } = storeToRefs(useDesign())
  const build = useBuild()
  const outbox = useOutbox()
  const { current, kept } = storeToRefs(build)
  const { taken } = storeToRefs(outbox)
  const quantities = shallowRef<readonly QuantityInfo[]>([])
  const entries = shallowRef<readonly KeptEntry[]>([])
  const series = shallowRef<readonly SeriesKept[]>([])
  const outlook = shallowRef<LogOutlook | null>(null)
  let newest = 0

  const byQuantity = computed(() => new Map(quantities.value.map((info) => [info.quantity as string, info])))
  const overdue = computed(() => outlook.value?.due.filter(({ state }) => state === 'overdue').length ?? 0)
  /** For the rail. */
  const told = computed(() => {
    if (!current.value || !outlook.value) return '–'
    if (outlook.value.alarms.length) return `${outlook.value.alarms.length} warned`
    return overdue.value ? `${overdue.value} due` : 'quiet'
  })

  async function refresh(): Promise<void> {
    const ticket = ++newest
    const place = current.value?.id
    if (!quantities.value.length) {
      const answer = await outcome(api.GET('/api/log/quantities'))
      if (answer.kind === 'answer') quantities.value = answer.value
    }
    if (!place || !document.value) {
      entries.value = []
      series.value = []
      outlook.value = null
      return
    }
    const params = { path: { installation_id: place } }
    const [found, there, said] = await Promise.all([
      outcome(api.GET('/api/installations/{installation_id}/entries', { params })),
      outcome(api.GET('/api/installations/{installation_id}/series', { params })),
      outcome(api.POST('/api/log-outlook', { body: { design: document.value, installation_id: place } })),
    ])
    if (ticket !== newest) return
    if (found.kind === 'answer') entries.value = found.value
    if (there.kind === 'answer') series.value = there.value
    if (said.kind === 'answer') outlook.value = said.value
  }

  watch([current, kept, taken], () => void refresh())

  return { quantities, byQuantity, entries, series, outlook, overdue, told, refresh }
})
