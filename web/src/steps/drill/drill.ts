/** A drill: its storm, what was decided so far, where it stands, its account; kept on the device until a new one begins. */
import { useLocalStorage } from '@vueuse/core'
import { defineStore, storeToRefs } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'

import {
  api,
  outcome,
  refusal,
  SILENT,
  type DrillAccount,
  type DrillDecision,
  type DrillNews,
  type DrillScenario,
  type DrillStand,
} from '@/api/client'
import { useDesign } from '@/design/store'

import { useBuild } from '../build/build'
import { useOutbox } from '../logbook/outbox'

export type DrillMode = 'full' | 'family'

interface KeptDrill {
  scenario: DrillScenario
  decisions: DrillDecision[]
  at_h: number
  mode: DrillMode
}

/** A decision as it is taken: now. */
export type Choice = Pick<DrillDecision, 'kind'> & Partial<Pick<DrillDecision, 'loads' | 'for_h'>>

export interface DrillScore {
  at: string
  title: string
  mode: DrillMode
  score_points: number
  keep_h: number
  duration_h: number
}

/** News at which time stands still, so that something can be done about it. */
const STOPS = new Set(['told', 'dark', 'cut_off', 'dropped', 'overloaded', 'generator_off'])
const MOST_SCORES = 20
/** News of the moment itself is no news [h]. */
const SOON_H = 0.005
/** Time stands still so soon after it, when it is seen [h]. */
const JUST_AFTER_H = 0.02

export const useDrill = defineStore('drill', () => {
  const { document, rootId, id } = storeToRefs(useDesign())
  const build = useBuild()
  const outbox = useOutbox()
  const home = computed(() => rootId.value ?? id.value)
  const drills = useLocalStorage<Record<string, KeptDrill | null>>('hearthkeep.drill', {})
  const allScores = useLocalStorage<Record<string, DrillScore[]>>('hearthkeep.drill-scores', {})
  const drill = computed(() => drills.value[home.value] ?? null)
  const scores = computed(() => allScores.value[home.value] ?? [])
  const stand = shallowRef<DrillStand | null>(null)
  const account = shallowRef<DrillAccount | null>(null)
  const trouble = ref('')
  const isBusy = ref(false)
  /** For the rail. */
  const told = computed(() => {
    if (drill.value && stand.value && !stand.value.is_over) return `hour ${Math.floor(stand.value.at_h)}`
    const last = scores.value[0]
    return last ? `${Math.round(last.score_points)} of 100` : '–'
  })

  function keep(change: Partial<KeptDrill>): void {
    if (drill.value) drills.value = { ...drills.value, [home.value]: { ...drill.value, ...change } }
  }

  async function draw(seed: number): Promise<DrillScenario | null> {
    if (!document.value) return null
    const answer = await outcome(api.POST('/api/drill/scenario', { body: { design: document.value, seed } }))
    trouble.value =
      answer.kind === 'refused' ? refusal(answer.problem) : answer.kind === 'silent' ? SILENT : ''
    return answer.kind === 'answer' ? answer.value : null
  }

  async function begin(scenario: DrillScenario, mode: DrillMode): Promise<void> {
    drills.value = { ...drills.value, [home.value]: { scenario, decisions: [], at_h: 0, mode } }
    account.value = null
    stand.value = null
    await look()
    // A storm that cannot be lived on this design was not begun.
    if (!stand.value) drills.value = { ...drills.value, [home.value]: null }
  }

  function leave(): void {
    drills.value = { ...drills.value, [home.value]: null }
    stand.value = null
    account.value = null
  }

  async function standAt(at_h: number): Promise<DrillStand | null> {
    if (!drill.value || !document.value) return null
    const { scenario, decisions } = drill.value
    const body = { design: document.value, scenario, decisions, at_h }
    const answer = await outcome(api.POST('/api/drill/stand', { body }))
    trouble.value =
      answer.kind === 'refused' ? refusal(answer.problem) : answer.kind === 'silent' ? SILENT : ''
    return answer.kind === 'answer' ? answer.value : null
  }

  async function look(): Promise<void> {
    const found = await standAt(drill.value?.at_h ?? 0)
    if (found) stand.value = found
    if (found?.is_over) await close()
  }

  /** Let so many hours pass, or fewer: at the first thing that happens time stands still. */
  async function pass(hours: number): Promise<void> {
    if (!drill.value || isBusy.value || stand.value?.is_over) return
    isBusy.value = true
    const from_h = drill.value.at_h
    let found = await standAt(from_h + hours)
    const first = found?.news.find((each) => each.at_h > from_h + SOON_H && STOPS.has(each.kind))
    if (found && first && first.at_h + JUST_AFTER_H < found.at_h - SOON_H)
      found = await standAt(first.at_h + JUST_AFTER_H)
    if (found) {
      keep({ at_h: found.at_h })
      stand.value = found
    }
    isBusy.value = false
    if (found?.is_over) await close()
  }

  async function decide(decision: Choice): Promise<void> {
    if (!drill.value || isBusy.value) return
    isBusy.value = true
    keep({ decisions: [...drill.value.decisions, { loads: [], ...decision, at_h: drill.value.at_h }] })
    const found = await standAt(drill.value.at_h)
    if (found) stand.value = found
    // What was refused was not decided.
    else keep({ decisions: drill.value.decisions.slice(0, -1) })
    isBusy.value = false
  }

  async function close(): Promise<void> {
    if (!drill.value || !document.value || account.value) return
    const { scenario, decisions, mode } = drill.value
    const answer = await outcome(
      api.POST('/api/drill/account', { body: { design: document.value, scenario, decisions } }),
    )
    if (answer.kind !== 'answer') {
      trouble.value = answer.kind === 'refused' ? refusal(answer.problem) : SILENT
      return
    }
    account.value = answer.value
    const score: DrillScore = {
      at: new Date().toISOString(),
      title: scenario.title ?? 'A storm',
      mode,
      score_points: answer.value.score_points,
      keep_h: answer.value.yours.keep_h,
      duration_h: answer.value.duration_h,
    }
    const same = scores.value[0]
    if (same && same.title === score.title && same.score_points === score.score_points) return
    allScores.value = { ...allScores.value, [home.value]: [score, ...scores.value].slice(0, MOST_SCORES) }
    if (build.current)
      outbox.put({
        installation_id: build.current.id,
        who: build.who,
        body: {
          kind: 'event',
          what: 'note',
          note: `Drill, ${score.title}: ${Math.round(score.score_points)} of 100, Keep ${score.keep_h.toFixed(1)} of ${score.duration_h} h.`,
        },
      })
  }

  /** The newest news first. */
  const news = computed<DrillNews[]>(() => [...(stand.value?.news ?? [])].reverse())
  watch(home, () => {
    stand.value = null
    account.value = null
  })

  return {
    drill,
    stand,
    account,
    scores,
    news,
    trouble,
    isBusy,
    told,
    draw,
    begin,
    leave,
    look,
    pass,
    decide,
  }
})
