/** The papers of the open design: which are wanted, and each as far as it is printed. */
import { useDebounceFn, useLocalStorage } from '@vueuse/core'
import { defineStore, storeToRefs } from 'pinia'
import { computed, ref, shallowRef } from 'vue'

import { api, outcome, refusal, SILENT, type PaperKind, type PaperRun } from '@/api/client'
import { useDesign } from '@/design/store'

import { useBuild } from '../build/build'

export type Audience = PaperKind['audience']

/** How often a paper under way is asked for [ms], and how long after the last edit papers are printed anew. */
const EVERY_MS = 250
const REST_MS = 900

const isLive = (run: PaperRun) => ['waiting', 'fetching', 'printing'].includes(run.state)

export const usePapers = defineStore('papers', () => {
  const design = useDesign()
  const build = useBuild()
  const { id, revision } = storeToRefs(design)
  const kinds = shallowRef<readonly PaperKind[]>([])
  const wanted = useLocalStorage<Audience[]>('hearthkeep.papers', ['electrician', 'family'])
  const runs = shallowRef<Partial<Record<Audience, PaperRun>>>({})
  const of = ref('')
  const trouble = ref('')
  let newest = 0

  /** Those wanted, in the order in which papers are named. */
  const chosen = computed(() => kinds.value.filter((kind) => wanted.value.includes(kind.audience)))
  const shown = computed(() =>
    chosen.value.map((kind) => ({
      kind,
      run: of.value === id.value ? (runs.value[kind.audience] ?? null) : null,
    })),
  )
  const isBusy = computed(() => shown.value.some(({ run }) => run && isLive(run)))
  const isReady = computed(
    () =>
      shown.value.length > 0 &&
      shown.value.every(({ run }) => run?.state === 'done' && run.revision === revision.value),
  )
  const pages = computed(() => shown.value.reduce((sum, { run }) => sum + (run?.pages.length ?? 0), 0))
  /** For the rail. */
  const told = computed(() => (isReady.value ? `${pages.value} pages` : isBusy.value ? 'printing' : '–'))

  async function open(): Promise<void> {
    if (!kinds.value.length) {
      const answer = await outcome(api.GET('/api/papers/kinds'))
      if (answer.kind === 'answer') kinds.value = answer.value
      else trouble.value = answer.kind === 'refused' ? refusal(answer.problem) : SILENT
    }
    await print()
  }

  /** Print what is wanted of the design as it stands, once that is saved; what is printed already is kept. */
  async function print(): Promise<void> {
    const ticket = ++newest
    await design.save()
    if (ticket !== newest || !id.value) return
    if (design.isDirty) {
      trouble.value = 'Papers are printed of what is saved; this design is not saved yet.'
      return
    }
    trouble.value = ''
    leave(({ run }) => of.value !== id.value || run.revision !== revision.value)
    if (of.value !== id.value) runs.value = {}
    of.value = id.value
    // The certificate is that of the installation chosen on Build.
    if (chosen.value.some(({ audience }) => audience === 'record')) await build.open()
    const built = build.current?.id
    for (const { audience } of chosen.value) {
      const answer = await outcome(
        api.POST('/api/designs/{design_id}/papers', {
          params: {
            path: { design_id: id.value },
            query: { audience, ...(audience === 'record' && built ? { installation_id: built } : {}) },
          },
        }),
      )
      if (ticket !== newest) return
      if (answer.kind === 'answer') runs.value = { ...runs.value, [audience]: answer.value }
      else trouble.value = answer.kind === 'refused' ? refusal(answer.problem) : SILENT
    }
    void follow(ticket)
  }

  /** End runs that are under way and no longer asked for. */
  function leave(isLeft: (entry: { audience: Audience; run: PaperRun }) => boolean): void {
    for (const [audience, run] of Object.entries(runs.value) as [Audience, PaperRun][])
      if (isLive(run) && isLeft({ audience, run }))
        void outcome(api.DELETE('/api/papers/{run_id}', { params: { path: { run_id: run.id } } }))
  }

  async function follow(ticket: number): Promise<void> {
    while (ticket === newest && isBusy.value) {
      await new Promise((resolve) => setTimeout(resolve, EVERY_MS))
      for (const { kind, run } of shown.value) {
        if (!run || !isLive(run)) continue
        const answer = await outcome(
          api.GET('/api/papers/{run_id}', { params: { path: { run_id: run.id } } }),
        )
        if (ticket !== newest) return
        if (answer.kind === 'answer') runs.value = { ...runs.value, [kind.audience]: answer.value }
        else {
          trouble.value = answer.kind === 'refused' ? refusal(answer.problem) : SILENT
          return
        }
      }
    }
  }

  function cancel(): void {
    newest += 1
    leave(() => true)
    for (const { kind, run } of shown.value)
      if (run && isLive(run)) runs.value = { ...runs.value, [kind.audience]: { ...run, state: 'cancelled' } }
  }

  async function tick(audience: Audience, isWanted: boolean): Promise<void> {
    wanted.value = isWanted ? [...wanted.value, audience] : wanted.value.filter((entry) => entry !== audience)
    if (!isWanted) leave((entry) => entry.audience === audience)
    await print()
  }

  /** Where the papers are to be had as one file, or as one each. */
  const address = (path: 'papers-as-pdf' | 'papers-as-zip') =>
    `/api/${path}?${shown.value.map(({ run }) => `run=${run?.id}`).join('&')}`

  return {
    kinds,
    wanted,
    shown,
    isBusy,
    isReady,
    pages,
    told,
    trouble,
    open,
    print,
    printSoon: useDebounceFn(print, REST_MS),
    cancel,
    tick,
    address,
  }
})
