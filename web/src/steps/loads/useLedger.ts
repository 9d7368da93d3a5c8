/** Changes of the ledger's rows, each one edit of the design. */
import { computed, type ComputedRef } from 'vue'

import type { Load, Tier } from '@/api/client'
import { useDesign } from '@/design/store'
import { freshId, idFromName } from '@/shared/ids'

export const MOST_LOADS = 400
export const TIER_ORDER: readonly Tier[] = ['life', 'keep', 'ease', 'spare']

export interface Ledger {
  loads: ComputedRef<Load[]>
  add: (load: Load) => void
  take: (rows: readonly Load[]) => void
  change: (index: number, part: Partial<Load>) => void
  changeMany: (ids: ReadonlySet<string>, part: Partial<Load>) => void
  remove: (ids: ReadonlySet<string>) => void
  duplicate: (ids: ReadonlySet<string>) => void
  /** Move a row one place up or down; over the edge of its tier it goes into the next. */
  step: (id: string, by: 1 | -1) => void
  /** Put rows into a tier, before a given row or at the tier's end. */
  place: (ids: ReadonlySet<string>, tier: Tier, beforeId?: string) => void
}

export function useLedger(): Ledger {
  const store = useDesign()
  const loads = computed(() => store.document?.loads ?? [])
  const set = (next: readonly Load[]) => store.set('loads', next)

  function add(load: Load): void {
    const used = loads.value.map((row) => row.id)
    if (used.length < MOST_LOADS) set([...loads.value, { ...load, id: idFromName(load.name, used) }])
  }

  /** Rows of a sheet: those known are replaced where they stand, the rest is added below. */
  function take(rows: readonly Load[]): void {
    const byId = new Map(rows.map((load) => [load.id, load]))
    const known = new Set(loads.value.map((load) => load.id))
    set([
      ...loads.value.map((load) => byId.get(load.id) ?? load),
      ...rows.filter((load) => !known.has(load.id)),
    ])
  }

  function change(index: number, part: Partial<Load>): void {
    set(loads.value.map((load, at) => (at === index ? { ...load, ...part } : load)))
  }

  function changeMany(ids: ReadonlySet<string>, part: Partial<Load>): void {
    set(loads.value.map((load) => (ids.has(load.id) ? { ...load, ...part } : load)))
  }

  function remove(ids: ReadonlySet<string>): void {
    set(loads.value.filter((load) => !ids.has(load.id)))
  }

  function duplicate(ids: ReadonlySet<string>): void {
    const used = loads.value.map((row) => row.id)
    if (used.length + ids.size > MOST_LOADS) return
    const next: Load[] = []
    for (const load of loads.value) {
      next.push(load)
      if (!ids.has(load.id)) continue
      const id = freshId(load.id.slice(0, 30), used)
      used.push(id)
      next.push({ ...load, id })
    }
    set(next)
  }

  function place(ids: ReadonlySet<string>, tier: Tier, beforeId?: string): void {
    if (beforeId !== undefined && ids.has(beforeId)) return
    const moved = loads.value.filter((load) => ids.has(load.id)).map((load) => ({ ...load, tier }))
    const rest = loads.value.filter((load) => !ids.has(load.id))
    const before = rest.findIndex((load) => load.id === beforeId)
    const last = rest.findLastIndex((load) => load.tier === tier)
    const at = before >= 0 ? before : last >= 0 ? last + 1 : rest.length
    set([...rest.slice(0, at), ...moved, ...rest.slice(at)])
  }

  function step(id: string, by: 1 | -1): void {
    const load = loads.value.find((row) => row.id === id)
    if (!load) return
    const mates = loads.value.filter((row) => row.tier === load.tier)
    const at = mates.findIndex((row) => row.id === id)
    const ids = new Set([id])
    if (mates[at + by]) {
      if (by < 0) place(ids, load.tier, mates[at - 1]?.id)
      else place(ids, load.tier, mates[at + 2]?.id)
      return
    }
    const tier = TIER_ORDER[TIER_ORDER.indexOf(load.tier) + by]
    if (!tier) return
    const first = loads.value.find((row) => row.tier === tier)
    place(ids, tier, by > 0 ? first?.id : undefined)
  }

  return { loads, add, take, change, changeMany, remove, duplicate, step, place }
}
