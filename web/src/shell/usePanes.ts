/** The panes around a page: on a phone one at a time; elsewhere the checks and the strip fold away, and stay so. */
import { useLocalStorage, useMediaQuery } from '@vueuse/core'
import { ref, watch, type Ref } from 'vue'
import { useRoute } from 'vue-router'

export type Pane = 'steps' | 'page' | 'checks' | 'outage'

/** Up to this width a screen is taken for one in the hand. */
const PHONE = '(max-width: 640px)'

export function useIsPhone(): Ref<boolean> {
  return useMediaQuery(PHONE)
}

export interface UsePanesReturn {
  isPhone: Ref<boolean>
  /** The pane that a phone shows. */
  pane: Ref<Pane>
  areChecksFolded: Ref<boolean>
  isStripFolded: Ref<boolean>
}

export function usePanes(): UsePanesReturn {
  const route = useRoute()
  const pane = ref<Pane>('page')
  watch(
    () => route.name,
    () => (pane.value = 'page'),
  )
  return {
    isPhone: useIsPhone(),
    pane,
    areChecksFolded: useLocalStorage('hearthkeep.checks-folded', false),
    isStripFolded: useLocalStorage('hearthkeep.strip-folded', false),
  }
}
