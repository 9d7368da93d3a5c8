/** What is set on runs, parts and prices, each change one edit of the design. */
import { storeToRefs } from 'pinia'
import { computed } from 'vue'

import type { DistributionBlock, RunSet } from '@/api/client'
import { useDesign } from '@/design/store'
import { idFromName } from '@/shared/ids'

type Fields = Partial<Omit<RunSet, 'run'>>

/** Whether an entry says nothing beyond its key. */
function saysNothing(entry: RunSet): boolean {
  return Object.entries(entry).every(([field, value]) => {
    if (field === 'run') return true
    if (Array.isArray(value)) return value.length === 0
    return (
      value == null ||
      value === false ||
      (field === 'fed_from' && value === 'bus') ||
      (field === 'conduit_kind' && value === 'emt')
    )
  })
}

export function useWiring() {
  const store = useDesign()
  const { document, assessment, problems } = storeToRefs(store)
  const wiring = computed(() => document.value?.wiring ?? null)
  const entries = computed(() => wiring.value?.runs ?? [])
  const places = computed(() => wiring.value?.board?.places ?? [])
  const prices = computed(() => wiring.value?.prices ?? [])

  const entryOf = (run: string): RunSet | undefined => entries.value.find((entry) => entry.run === run)

  /** Set something on a run; an entry that says nothing any more is taken out. */
  function change(run: string, fields: Fields): void {
    const before = entryOf(run)
    const after = { ...(before ?? { run }), ...fields } as RunSet
    const others = before
      ? entries.value.map((entry) => (entry.run === run ? after : entry))
      : [...entries.value, after]
    store.set(
      'wiring.runs',
      others.filter((entry) => entry.run !== run || !saysNothing(entry)),
    )
  }

  /** All that is set on a run is as it was worked out again. */
  function forget(run: string): void {
    store.set(
      'wiring.runs',
      entries.value.filter((entry) => entry.run !== run),
    )
  }

  const blocks = computed(() => wiring.value?.blocks ?? [])

  /** One more distribution block, without anything on its ways. */
  function addBlock(): void {
    const used = blocks.value.map((block) => block.id)
    const name = `Block ${used.length + 1}`
    store.set('wiring.blocks', [...blocks.value, { id: idFromName(name, used), name, loads: [] }])
  }

  function changeBlock(id: string, fields: Partial<DistributionBlock> | null): void {
    store.set(
      'wiring.blocks',
      blocks.value.flatMap((block) =>
        block.id !== id ? [block] : fields === null ? [] : [{ ...block, ...fields }],
      ),
    )
  }

  /** The block on whose ways a load is; empty where it is on none. */
  const blockOf = (load: string): string =>
    blocks.value.find((block) => (block.loads ?? []).includes(load))?.id ?? ''

  /** Put a load on a way of a block, or of none. */
  function putOn(load: string, id: string): void {
    store.set(
      'wiring.blocks',
      blocks.value.map((block) => {
        const others = (block.loads ?? []).filter((each) => each !== load)
        return { ...block, loads: block.id === id ? [...others, load] : others }
      }),
    )
  }

  function place(part: string, x_mm: number, y_mm: number): void {
    const spot = { part, x_mm: Math.max(0, Math.round(x_mm)), y_mm: Math.max(0, Math.round(y_mm)) }
    const isThere = places.value.some((entry) => entry.part === part)
    store.set(
      'wiring.board.places',
      isThere ? places.value.map((entry) => (entry.part === part ? spot : entry)) : [...places.value, spot],
    )
  }

  function price(item: string, value: number | null): void {
    const others = prices.value.filter((entry) => entry.item !== item)
    store.set('wiring.prices', value === null ? others : [...others, { item, price: value }])
  }

  /** What cannot be used of what is set on a run, in words. */
  const faults = computed(() =>
    problems.value.flatMap((problem) => {
      const [, at, field] = /^wiring\.runs\.(\d+)\.(\w+)$/.exec(problem.field) ?? []
      const entry = at === undefined ? undefined : entries.value[Number(at)]
      return entry
        ? [{ run: entry.run, field: field ?? '', text: `${problem.accepted} (got ${problem.value})` }]
        : []
    }),
  )

  return {
    store,
    document,
    assessment,
    entries,
    places,
    prices,
    faults,
    blocks,
    addBlock,
    changeBlock,
    blockOf,
    putOn,
    entryOf,
    change,
    forget,
    place,
    price,
  }
}

export type Wiring = ReturnType<typeof useWiring>
