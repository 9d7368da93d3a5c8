/** The text of a field that holds a quantity: shown in the screen's unit, read when it is left, kept in the design's unit. */
import { storeToRefs } from 'pinia'
import { computed, ref, toValue, watch, type MaybeRefOrGetter, type Ref } from 'vue'

import { useDesign } from '@/design/store'

import { commasOf, needs } from './numbers'
import { readQuantity } from './quantity'
import { plain, type Unit } from './units'

export interface UseQuantityOptions {
  /** The quantity in the design's unit; none where the field is empty. */
  value: MaybeRefOrGetter<number | null | undefined>
  /** The screen's unit; a text stands for itself. */
  unit?: MaybeRefOrGetter<Unit | string | undefined>
  /** Whole numbers only. @default false */
  whole?: MaybeRefOrGetter<boolean>
  /** Whether the field may be empty. @default false */
  mayBeEmpty?: MaybeRefOrGetter<boolean>
  /** How the quantity is written; else as a plain number. */
  show?: (value: number | null | undefined) => string
  /** Called with a new quantity in the design's unit, or null for empty; never with the same one again. */
  keep: (value: number | null) => void
}

export interface UseQuantityReturn {
  text: Ref<string>
  /** What is wrong with the text as it was left; empty while nothing is. */
  wrong: Ref<string>
  unit: Ref<Unit>
  commit: () => void
  restore: () => void
}

export function useQuantity(options: UseQuantityOptions): UseQuantityReturn {
  const { document } = storeToRefs(useDesign())
  const unit = computed(() => {
    const given = toValue(options.unit) ?? ''
    return typeof given === 'string' ? plain(given) : given
  })
  const text = ref('')
  const wrong = ref('')

  function written(): string {
    const value = toValue(options.value)
    if (options.show) return options.show(value)
    return value === null || value === undefined ? '' : String(unit.value.show(value))
  }

  function restore(): void {
    text.value = written()
    wrong.value = ''
  }

  function commit(): void {
    wrong.value = ''
    const typed = text.value.trim()
    if (typed === written()) return
    const before = toValue(options.value) ?? null
    if (toValue(options.mayBeEmpty) && (typed === '' || typed === '–')) {
      if (before !== null) options.keep(null)
      return
    }
    const read = readQuantity(typed, commasOf(document.value?.practice), unit.value.label)
    const whole = toValue(options.whole) ?? false
    if (read.value === null || (whole && !Number.isInteger(read.value))) {
      wrong.value = needs(typed, read, whole)
      return
    }
    const value = unit.value.keep(read.value)
    if (value !== before) options.keep(value)
    else restore()
  }

  watch([() => toValue(options.value), unit], restore, { immediate: true })
  return { text, wrong, unit, commit, restore }
}
