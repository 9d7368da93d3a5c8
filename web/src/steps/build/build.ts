/** What is built from the open design: its installations, the moment of the readings, and what is being read. */
import { useLocalStorage } from '@vueuse/core'
import { defineStore, storeToRefs } from 'pinia'
import { computed, ref, shallowRef } from 'vue'

import {
  api,
  outcome,
  refusal,
  SILENT,
  type BuildMoment,
  type BuildSheet,
  type Design,
  type GateSheet,
  type GateSigning,
  type Installation,
  type KeptEntry,
} from '@/api/client'
import { useDesign } from '@/design/store'
import { withEntry } from '@/shared/records'

/** Readings by what a gate asks. */
export type Readings = Record<string, number>
/** Readings being entered, by gate, of each installation. */
type Drafts = Record<string, Record<string, Readings>>

/** Now at the site, local standard time to the minute. */
export function siteNow(design: Design): string {
  return atSite(design, new Date().toISOString())
}

/** A moment of the world at the site, local standard time to the minute. */
export function atSite(design: Design, moment: string): string {
  const at = new Date(Date.parse(moment) + design.site.utc_offset_h * 3_600_000)
  return `${at.toISOString().slice(0, 16)}:00`
}

/** The moment of the world that a local standard time at the site is. */
export function fromSite(design: Design, local: string): Date {
  return new Date(Date.parse(`${local.slice(0, 16)}:00Z`) - design.site.utc_offset_h * 3_600_000)
}

export const useBuild = defineStore('build', () => {
  const design = useDesign()
  const { id, rootId, document } = storeToRefs(design)
  const installations = shallowRef<readonly Installation[]>([])
  const of = ref('')
  const trouble = ref('')
  /** The tree's root: alternatives share its installations. */
  const home = computed(() => rootId.value ?? id.value)
  const chosen = useLocalStorage<Record<string, string>>('hearthkeep.installation', {})
  const current = computed(
    () =>
      installations.value.find((entry) => entry.id === chosen.value[home.value]) ??
      installations.value[0] ??
      null,
  )
  const moments = useLocalStorage<Record<string, BuildMoment>>('hearthkeep.moment', {})
  const drafts = useLocalStorage<Drafts>('hearthkeep.readings', {})
  const who = useLocalStorage('hearthkeep.who', '')
  const instrument = useLocalStorage('hearthkeep.instrument', '')
  /** Changes whenever something was kept, so that what rests on it is asked anew. */
  const kept = ref(0)
  const sheet = shallowRef<BuildSheet | null>(null)

  const place = computed(() => current.value?.id ?? home.value)
  const readings = computed(() => drafts.value[place.value] ?? {})
  const moment = computed<BuildMoment | null>(() => {
    if (!document.value) return null
    return moments.value[home.value] ?? { at: siteNow(document.value), sky: 'clear', air_c: 20 }
  })
  /** For the rail. */
  const told = computed(() => {
    if (!sheet.value || of.value !== home.value) return '–'
    return `${sheet.value.passed} of ${sheet.value.gates.length}`
  })

  function note(
    answer: { kind: 'refused'; problem: Parameters<typeof refusal>[0] } | { kind: 'silent' },
  ): string {
    return answer.kind === 'refused' ? refusal(answer.problem) : SILENT
  }

  async function open(): Promise<void> {
    const asked = home.value
    if (!asked) return
    const params = { path: { design_id: asked } }
    const answer = await outcome(api.GET('/api/designs/{design_id}/installations', { params }))
    if (asked !== home.value) return
    if (answer.kind !== 'answer') {
      trouble.value = note(answer)
      return
    }
    trouble.value = ''
    if (of.value !== asked) sheet.value = null
    of.value = asked
    installations.value = answer.value
    kept.value += 1
  }

  async function begin(name: string): Promise<void> {
    const params = { path: { design_id: home.value } }
    const answer = await outcome(
      api.POST('/api/designs/{design_id}/installations', { params, body: { name } }),
    )
    if (answer.kind !== 'answer') {
      trouble.value = note(answer)
      return
    }
    // What was read before the record began belongs to it.
    const before = drafts.value[home.value]
    if (before && !installations.value.length)
      drafts.value = { ...drafts.value, [answer.value.id]: before, [home.value]: {} }
    chosen.value = { ...chosen.value, [home.value]: answer.value.id }
    await open()
  }

  async function rename(name: string): Promise<void> {
    if (!current.value) return
    const params = { path: { installation_id: current.value.id } }
    const answer = await outcome(
      api.PUT('/api/installations/{installation_id}/name', { params, body: { name } }),
    )
    trouble.value = answer.kind === 'answer' ? '' : note(answer)
    await open()
  }

  function choose(installationId: string): void {
    chosen.value = { ...chosen.value, [home.value]: installationId }
    kept.value += 1
  }

  function setMoment(change: Partial<BuildMoment>): void {
    if (moment.value) moments.value = { ...moments.value, [home.value]: { ...moment.value, ...change } }
  }

  function put(gate: string, ask: string, value: number | null): void {
    putGate(gate, withEntry(readings.value[gate] ?? {}, ask, value))
  }

  /** Set what is being read at a gate; null forgets it. */
  function putGate(gate: string, values: Readings | null): void {
    drafts.value = { ...drafts.value, [place.value]: withEntry(readings.value, gate, values) }
  }

  /** Sign, skip or take back a gate; why it was refused, empty where it was kept. */
  async function sign(gate: GateSheet, signing: GateSigning, words: string, second = ''): Promise<string> {
    if (!current.value || !moment.value) return 'Begin the record of an installation first.'
    await design.save()
    if (design.isDirty) return 'Gates are signed for what is saved; this design is not saved yet.'
    const own = readings.value[gate.gate.key]
    const signed = gate.progress.signed?.entry
    const answer = await outcome(
      api.POST('/api/installations/{installation_id}/gates', {
        params: { path: { installation_id: current.value.id } },
        body: {
          id: crypto.randomUUID(),
          entry: {
            kind: 'gate',
            gate: gate.gate.key,
            signing,
            who: who.value,
            instrument: instrument.value,
            note: words,
            second,
            moment: own || !signed ? moment.value : (signed.moment ?? null),
            readings: own ?? signed?.readings ?? {},
            mark: gate.mark,
          },
        },
      }),
    )
    if (answer.kind !== 'answer') return note(answer)
    if (signing !== 'reopened') putGate(gate.gate.key, null)
    kept.value += 1
    return ''
  }

  /** Keep an entry that is no gate; why it was refused, empty where it was kept. */
  async function keep(body: Record<string, unknown>): Promise<string> {
    if (!current.value) return 'Begin the record of an installation first.'
    const now = new Date().toISOString()
    const answer = await outcome(
      api.POST('/api/installations/{installation_id}/entries', {
        params: { path: { installation_id: current.value.id } },
        body: {
          sent_at: now,
          entries: [{ id: crypto.randomUUID(), told_at: now, age_s: 0, who: who.value, body }],
        },
      }),
    )
    if (answer.kind !== 'answer') return note(answer)
    kept.value += 1
    return ''
  }

  /** Entries of some kinds that are not struck out, oldest first. */
  async function entries(kinds: string[]): Promise<KeptEntry[]> {
    if (!current.value) return []
    const params = { path: { installation_id: current.value.id }, query: { kind: kinds } }
    const answer = await outcome(api.GET('/api/installations/{installation_id}/entries', { params }))
    return answer.kind === 'answer' ? answer.value.filter((entry) => !entry.is_struck && !entry.trouble) : []
  }

  return {
    installations,
    current,
    moment,
    readings,
    who,
    instrument,
    kept,
    sheet,
    told,
    trouble,
    open,
    begin,
    rename,
    choose,
    setMoment,
    put,
    sign,
    keep,
    entries,
  }
})
