/** Changes of the panel's circuits and of what hangs on them, each one edit of the design. */
import { storeToRefs } from 'pinia'
import { computed } from 'vue'

import type { Circuit, CircuitState, FurtherPanel, Load, PanelRow } from '@/api/client'
import { useDesign } from '@/design/store'

export const MOST_SLOTS = 84

type Change = { path: string; value: unknown }

export function usePanel() {
  const store = useDesign()
  const { document, assessment } = storeToRefs(store)
  const circuits = computed(() => document.value?.transfer?.circuits ?? [])
  const further = computed(() => document.value?.transfer?.further ?? [])
  const loads = computed(() => document.value?.loads ?? [])
  const states = computed(
    () => new Map((assessment.value?.transfer.circuits ?? []).map((state) => [state.id, state])),
  )
  /** Two columns of slots where the service has two legs. */
  const stacked = computed(() => document.value?.site.service === '120/240')
  const slots = computed(() => document.value?.transfer?.main?.slots ?? 24)
  const houseLoads = computed(() =>
    loads.value.filter((load) => ['ac', 'ac240'].includes(load.supply ?? 'ac')),
  )

  /** Slots that a breaker takes. */
  function slotsOf(circuit: Pick<Circuit, 'slot' | 'poles'>, slot = circuit.slot): number[] {
    return (circuit.poles ?? 1) === 2 && stacked.value ? [slot, slot + 2] : [slot]
  }

  const taken = computed(
    () =>
      new Map(circuits.value.flatMap((circuit) => slotsOf(circuit).map((slot) => [slot, circuit] as const))),
  )

  /** Whether a circuit may stand in a slot. */
  function fits(circuit: Pick<Circuit, 'id' | 'slot' | 'poles'>, slot: number): boolean {
    return slotsOf(circuit, slot).every((entry) => {
      const there = taken.value.get(entry)
      return entry >= 1 && entry <= slots.value && (!there || there.id === circuit.id)
    })
  }

  const stateOf = (id: string): CircuitState | undefined => states.value.get(id)
  const indexOf = (id: string) => circuits.value.findIndex((circuit) => circuit.id === id)

  function change(id: string, part: Partial<Circuit>): void {
    const at = indexOf(id)
    if (at < 0) return
    store.setAll(
      Object.entries(part).map(([field, value]) => ({ path: `transfer.circuits.${at}.${field}`, value })),
    )
  }

  function freeId(wanted: string): string {
    const behind = further.value.flatMap((each) => each.circuits ?? [])
    const used = new Set([...circuits.value, ...behind].map((circuit) => circuit.id))
    let id = wanted
    for (let number = 2; used.has(id); number += 1) id = `${wanted}-${number}`
    return id
  }

  function hung(on: ReadonlyMap<string, string>): Change[] {
    return loads.value.flatMap((load, at) =>
      on.has(load.id) ? [{ path: `loads.${at}.circuit`, value: on.get(load.id) }] : [],
    )
  }

  function add(circuit: Circuit, hangs: readonly string[]): string {
    const id = freeId(circuit.id)
    const on = new Map(hangs.map((load) => [load, id]))
    store.setAll([{ path: 'transfer.circuits', value: [...circuits.value, { ...circuit, id }] }, ...hung(on)])
    return id
  }

  /** Further panels that a circuit feeds, one behind the other. */
  function fedFrom(id: string): FurtherPanel[] {
    return further.value
      .filter((each) => each.fed_by === id)
      .flatMap((each) => [each, ...(each.circuits ?? []).flatMap((circuit) => fedFrom(circuit.id))])
  }

  /** Take a circuit out with the panels behind it: their loads hang nowhere, and nobody shares its neutral. */
  function remove(id: string): void {
    const gone = fedFrom(id)
    const lost = new Set([id, ...gone.flatMap((each) => (each.circuits ?? []).map((circuit) => circuit.id))])
    store.setAll([
      {
        path: 'transfer.circuits',
        value: circuits.value
          .filter((circuit) => circuit.id !== id)
          .map((circuit) =>
            circuit.shares_neutral_with === id ? { ...circuit, shares_neutral_with: null } : circuit,
          ),
      },
      ...(gone.length ? [{ path: 'transfer.further', value: without(gone) }] : []),
      ...unhung(lost),
    ])
  }

  const without = (gone: readonly FurtherPanel[]) =>
    further.value.filter((each) => !gone.some((other) => other.id === each.id))

  function unhung(lost: ReadonlySet<string>): Change[] {
    return loads.value.flatMap((load, at) =>
      load.circuit && lost.has(load.circuit) ? [{ path: `loads.${at}.circuit`, value: null }] : [],
    )
  }

  /** A panel behind a circuit, empty at first. */
  function addFurther(fed_by: string): void {
    const id = freeId('panel')
    const names = new Set(further.value.map((each) => each.id))
    let own = id
    for (let number = 2; names.has(own); number += 1) own = `panel-${number}`
    const name = further.value.length ? `Panel further on ${further.value.length + 1}` : 'Panel further on'
    store.set('transfer.further', [...further.value, { id: own, name, fed_by, circuits: [] }])
  }

  function changeFurther(id: string, part: Partial<FurtherPanel>): void {
    store.set(
      'transfer.further',
      further.value.map((each) => (each.id === id ? { ...each, ...part } : each)),
    )
  }

  function removeFurther(id: string): void {
    const own = further.value.find((each) => each.id === id)
    if (!own) return
    const gone = [own, ...(own.circuits ?? []).flatMap((circuit) => fedFrom(circuit.id))]
    const lost = new Set(gone.flatMap((each) => (each.circuits ?? []).map((circuit) => circuit.id)))
    store.setAll([{ path: 'transfer.further', value: without(gone) }, ...unhung(lost)])
  }

  /** Take a circuit of a further panel out, with the panels behind it. */
  function removeBehind(panel: string, id: string): void {
    const gone = fedFrom(id)
    const lost = new Set([id, ...gone.flatMap((each) => (each.circuits ?? []).map((circuit) => circuit.id))])
    store.setAll([
      {
        path: 'transfer.further',
        value: without(gone).map((each) =>
          each.id === panel
            ? { ...each, circuits: (each.circuits ?? []).filter((circuit) => circuit.id !== id) }
            : each,
        ),
      },
      ...unhung(lost),
    ])
  }

  function hang(load: Load, circuit: string | null): void {
    store.set(`loads.${loads.value.indexOf(load)}.circuit`, circuit)
  }

  /** Rows of a schedule: a circuit in the same slot is replaced, the rest is added. */
  function take(rows: readonly PanelRow[]): void {
    const found = rows.flatMap((row) => (row.circuit ? [{ circuit: row.circuit, loads: row.loads }] : []))
    const bySlot = new Map(found.map((row) => [row.circuit.slot, row.circuit]))
    const kept = circuits.value.filter((circuit) => !bySlot.has(circuit.slot))
    const used = new Set(kept.map((circuit) => circuit.id))
    const on = new Map<string, string>()
    const fresh = found.map(({ circuit, loads: hangs }) => {
      let id = circuit.id
      for (let number = 2; used.has(id); number += 1) id = `${circuit.id}-${number}`
      used.add(id)
      for (const load of hangs) on.set(load, id)
      return { ...circuit, id }
    })
    store.setAll([{ path: 'transfer.circuits', value: [...kept, ...fresh] }, ...hung(on)])
  }

  return {
    store,
    document,
    assessment,
    circuits,
    further,
    loads,
    houseLoads,
    stacked,
    slots,
    taken,
    slotsOf,
    fits,
    stateOf,
    change,
    add,
    remove,
    freeId,
    addFurther,
    changeFurther,
    removeFurther,
    removeBehind,
    hang,
    take,
  }
}

export type Panel = ReturnType<typeof usePanel>
