/** The outage itself: what is said of it now, kept on the device so that it stays when the server does not answer. */
import { useIntervalFn, useLocalStorage } from '@vueuse/core'
import { defineStore, storeToRefs } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'

import { api, outcome, refusal } from '@/api/client'
import { useDesign } from '@/design/store'

import { useBuild } from '../build/build'
import { useOutbox } from '../logbook/outbox'
import type { HeldViews } from './held'
import { lasting } from './words'

/** How often it is asked anew while somebody looks, and how often the clock on the page goes on [ms]. */
const ASK_EVERY_MS = 60_000
const TICK_MS = 5_000

export const useWatch = defineStore('watch', () => {
  const { document, rootId, id } = storeToRefs(useDesign())
  const build = useBuild()
  const outbox = useOutbox()
  const { current } = storeToRefs(build)
  const { taken } = storeToRefs(outbox)
  const held = useLocalStorage<HeldViews>('hearthkeep.watch', {})
  const isAway = ref(false)
  const trouble = ref('')
  const isLookedAt = ref(false)
  const clock_ms = ref(Date.now())
  const asking = shallowRef(0)

  const place = computed(() => current.value?.id ?? rootId.value ?? id.value)
  const own = computed(() => held.value[place.value] ?? null)
  const view = computed(() => own.value?.view ?? null)
  /** Since the server said it [h]; a clock that was set back counts as none. */
  const old_h = computed(() => (own.value ? Math.max((clock_ms.value - own.value.at_ms) / 3_600_000, 0) : 0))
  /** For the rail. */
  const told = computed(() => {
    if (!view.value) return '–'
    if (view.value.phase === 'on') return lasting(view.value.left[1], old_h.value)
    return { quiet: 'quiet', before: 'warned', after: 'over' }[view.value.phase]
  })

  async function refresh(): Promise<void> {
    if (!document.value) return
    const ticket = ++asking.value
    const asked = place.value
    const body = { design: document.value, installation_id: current.value?.id ?? null }
    const answer = await outcome(api.POST('/api/watch', { body }))
    if (ticket !== asking.value) return
    isAway.value = answer.kind === 'silent'
    trouble.value = answer.kind === 'refused' ? refusal(answer.problem) : ''
    if (answer.kind === 'answer') {
      held.value = { ...held.value, [asked]: { view: answer.value, design: id.value, at_ms: Date.now() } }
      clock_ms.value = Date.now()
    }
  }

  /** Write something into the log of the installation; one is begun where there is none. */
  async function tell(body: Record<string, unknown>): Promise<void> {
    if (!current.value) await build.begin(document.value?.name ?? 'House')
    if (!current.value) return
    outbox.put({ installation_id: current.value.id, who: build.who, body })
  }

  watch([document, current, taken], () => isLookedAt.value && void refresh())
  useIntervalFn(() => isLookedAt.value && void refresh(), ASK_EVERY_MS)
  useIntervalFn(() => (clock_ms.value = Date.now()), TICK_MS)

  return { view, old_h, told, isAway, isLookedAt, trouble, refresh, tell }
})
