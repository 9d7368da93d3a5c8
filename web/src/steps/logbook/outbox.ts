/**
 * Entries on their way: kept on the device until the server has them, sent again and again under the same id, so that none is lost
 * and none comes twice. A stop-watch tells how old each is, whatever the device's clock is set to.
 */
import { useEventListener, useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'

import { api, outcome, refusal } from '@/api/client'

export interface WaitingEntry {
  id: string
  installation_id: string
  /** By the device's clock, when it was made or as it was typed. */
  told_at: string
  /** Which run of the page made it, and its stop-watch then [ms]; null where the moment was typed. */
  run: string
  stopwatch_ms: number | null
  who: string
  body: Record<string, unknown>
  strikes: string | null
  /** Why the server would not take it; empty while it has not said so. */
  refused: string
}

/** Entries sent in one go, and how long to wait before the next try, from the first on [ms]. */
const AT_ONCE = 100
const WAITS_MS = [1_000, 2_000, 5_000, 10_000, 30_000]

export const useOutbox = defineStore('outbox', () => {
  const run = crypto.randomUUID()
  const waiting = useLocalStorage<WaitingEntry[]>('hearthkeep.outbox', [])
  const isAway = ref(false)
  /** How many entries the server has taken since the page was opened. */
  const taken = ref(0)
  const clockOff_s = ref(0)
  const isSending = ref(false)
  let tries = 0
  let timer: ReturnType<typeof setTimeout> | undefined

  const unsent = computed(() => waiting.value.filter((entry) => !entry.refused))
  const refusedOnes = computed(() => waiting.value.filter((entry) => entry.refused))

  /** Keep an entry on the device, and send it as soon as may be; `told` is a moment that was typed. */
  function put(entry: {
    installation_id: string
    who: string
    body: Record<string, unknown>
    strikes?: string
    told?: Date
  }): void {
    const made: WaitingEntry = {
      id: crypto.randomUUID(),
      installation_id: entry.installation_id,
      told_at: (entry.told ?? new Date()).toISOString(),
      run,
      stopwatch_ms: entry.told ? null : performance.now(),
      who: entry.who,
      body: entry.body,
      strikes: entry.strikes ?? null,
      refused: '',
    }
    waiting.value = [...waiting.value, made]
    void send()
  }

  async function send(): Promise<void> {
    if (isSending.value) return
    const first = unsent.value[0]
    if (!first) return
    isSending.value = true
    const batch = unsent.value
      .filter((entry) => entry.installation_id === first.installation_id)
      .slice(0, AT_ONCE)
    const answer = await post(first.installation_id, batch)
    isSending.value = false
    if (answer.kind === 'silent') {
      isAway.value = true
      clearTimeout(timer)
      timer = setTimeout(() => void send(), WAITS_MS[Math.min(tries++, WAITS_MS.length - 1)])
      return
    }
    isAway.value = false
    tries = 0
    if (answer.kind === 'answer') {
      drop(batch.map((entry) => entry.id))
      taken.value += batch.length
      clockOff_s.value = answer.value.clock_off_s
    } else if (batch.length > 1) {
      // One of them cannot be taken: each goes alone, so that the others are.
      for (const entry of batch) await sendAlone(entry)
    } else refuse(first.id, refusal(answer.problem))
    await send()
  }

  async function sendAlone(entry: WaitingEntry): Promise<void> {
    const answer = await post(entry.installation_id, [entry])
    if (answer.kind === 'answer') {
      drop([entry.id])
      taken.value += 1
    } else if (answer.kind === 'refused') refuse(entry.id, refusal(answer.problem))
  }

  function post(installationId: string, batch: readonly WaitingEntry[]) {
    return outcome(
      api.POST('/api/installations/{installation_id}/entries', {
        params: { path: { installation_id: installationId } },
        body: {
          sent_at: new Date().toISOString(),
          entries: batch.map((entry) => ({
            id: entry.id,
            told_at: entry.told_at,
            age_s:
              entry.stopwatch_ms !== null && entry.run === run
                ? Math.max((performance.now() - entry.stopwatch_ms) / 1000, 0)
                : null,
            who: entry.who,
            body: entry.body,
            strikes: entry.strikes,
          })),
        },
      }),
    )
  }

  function drop(ids: readonly string[]): void {
    waiting.value = waiting.value.filter((entry) => !ids.includes(entry.id))
  }

  function refuse(id: string, why: string): void {
    waiting.value = waiting.value.map((entry) => (entry.id === id ? { ...entry, refused: why } : entry))
  }

  useEventListener('online', () => void send())
  void send()

  return { waiting, unsent, refusedOnes, isAway, taken, clockOff_s, put, send, drop }
})
