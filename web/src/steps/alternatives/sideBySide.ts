/** The tree of alternatives of the open design, and what is known of those laid side by side. */
import { useLocalStorage } from '@vueuse/core'
import { storeToRefs } from 'pinia'
import { computed, onScopeDispose, ref, shallowRef, watch } from 'vue'

import {
  api,
  outcome,
  refusal,
  SILENT,
  type Outcome,
  type Variant,
  type VariantColumn,
  type VariantYear,
  type Worth,
} from '@/api/client'
import { useDesign } from '@/design/store'

import { useAlternatives } from './alternatives'

/** Columns at the least and at the most. */
export const LEAST_COLUMNS = 2
export const MOST_COLUMNS = 6

/** One column: who it is, and what has been found of it so far. */
export interface Laid {
  variant: Variant
  isRoot: boolean
  isOpen: boolean
  title: string
  column: VariantColumn | null
  year: VariantYear | null
  /** Against the design itself; none for that. */
  worth: Worth | null
}

interface Found {
  revision: number
  column: VariantColumn | null
  year: VariantYear | null
  worth: { base: number; value: Worth } | null
}

export function useSideBySide() {
  const { id, revision } = storeToRefs(useDesign())
  const rail = useAlternatives()
  const tree = shallowRef<Variant[]>([])
  const trouble = ref('')
  const found = shallowRef<Record<string, Found>>({})
  const root = computed(() => tree.value[0] ?? null)
  const kept = computed(() => tree.value.filter((variant) => !variant.deleted_at))
  /** By root: the ids that were laid side by side last. */
  const chosenOf = useLocalStorage<Record<string, string[]>>('hk-columns', {})
  const chosen = computed(() => {
    const known = new Set(kept.value.map((variant) => variant.id))
    const own = (root.value && chosenOf.value[root.value.id]?.filter((key) => known.has(key))) ?? []
    return own.length >= LEAST_COLUMNS ? own : kept.value.slice(0, 4).map((variant) => variant.id)
  })
  let isLeft = false
  onScopeDispose(() => (isLeft = true))

  function put(key: string, change: Partial<Found>): void {
    const now = found.value[key]
    if (now) found.value = { ...found.value, [key]: { ...now, ...change } }
  }

  /** An answer, or null with its trouble shown. */
  function answered<T>(answer: Outcome<T>): T | null {
    if (answer.kind === 'answer') return answer.value
    trouble.value = answer.kind === 'refused' ? refusal(answer.problem) : SILENT
    return null
  }

  async function loadTree(): Promise<void> {
    const params = { path: { design_id: id.value } }
    const answer = answered(await outcome(api.GET('/api/designs/{design_id}/alternatives', { params })))
    if (!answer || isLeft) return
    tree.value = answer
    rail.put(answer.filter((variant) => variant.parent_id && !variant.deleted_at).length)
  }

  /** What is not known yet, or of an earlier state: columns first, all at once, then what takes longer one by one. */
  async function load(): Promise<void> {
    const columns = kept.value.filter((variant) => chosen.value.includes(variant.id))
    const base = root.value
    if (!base) return
    for (const variant of columns)
      if (found.value[variant.id]?.revision !== variant.revision)
        found.value = {
          ...found.value,
          [variant.id]: { revision: variant.revision, column: null, year: null, worth: null },
        }
    await Promise.all(
      columns.map(async (variant) => {
        const now = found.value[variant.id]
        const params = { path: { design_id: variant.id } }
        if (!now?.column) {
          const column = answered(await outcome(api.GET('/api/designs/{design_id}/column', { params })))
          put(variant.id, { column })
        }
        if (variant.id !== base.id && now?.worth?.base !== base.revision) {
          const value = answered(
            await outcome(
              api.GET('/api/designs/{design_id}/worth', {
                params: { ...params, query: { base: base.id } },
              }),
            ),
          )
          put(variant.id, { worth: value && { base: base.revision, value } })
        }
      }),
    )
    for (const variant of columns) {
      if (isLeft) return
      if (found.value[variant.id]?.year) continue
      const params = { path: { design_id: variant.id } }
      const year = answered(await outcome(api.GET('/api/designs/{design_id}/variant-year', { params })))
      put(variant.id, { year })
    }
  }

  const laid = computed<Laid[]>(() =>
    kept.value
      .filter((variant) => chosen.value.includes(variant.id))
      .map((variant) => {
        const now = found.value[variant.id]
        return {
          variant,
          isRoot: variant.id === root.value?.id,
          isOpen: variant.id === id.value,
          title: titleOf(variant),
          column: now?.column ?? null,
          year: now?.year ?? null,
          worth: now?.worth?.value ?? null,
        }
      }),
  )

  function titleOf(variant: Variant): string {
    return variant.label || 'The design'
  }

  function choose(key: string, isIn: boolean): void {
    if (!root.value) return
    const next = isIn ? [...chosen.value, key] : chosen.value.filter((one) => one !== key)
    chosenOf.value = { ...chosenOf.value, [root.value.id]: next }
  }

  /** Do something to the tree, then look at it anew; whether it was done. */
  async function act(call: Promise<Outcome<unknown>>): Promise<boolean> {
    trouble.value = ''
    const answer = await call
    const isDone = answered(answer) !== null || answer.kind === 'answer'
    await loadTree()
    return isDone
  }

  // The open design is one of them: once it is saved, its column is of an earlier state.
  watch([id, revision], () => void loadTree(), { immediate: true })
  watch([tree, chosen], () => void load())
  return { tree, root, kept, chosen, laid, trouble, choose, act, loadTree, titleOf }
}

export type SideBySide = ReturnType<typeof useSideBySide>
