/** The moment the strip points at. Hover reads it; a pinned moment is followed by every page. */
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'

import { moment } from '@/shared/format'

import { useLooking } from './looking'

export const useCursor = defineStore('cursor', () => {
  /** Hours from the start of the outage; null when nothing points there. */
  const hover_h = ref<number | null>(null)
  const pinned_h = ref<number | null>(null)
  const looking = useLooking()

  const at_h = computed(() => hover_h.value ?? pinned_h.value)
  /** Hour of the day of the pinned moment, 0 to 23. */
  const pinnedHourOfDay = computed(() => {
    const start = looking.shown?.outage.start
    return pinned_h.value === null || !start ? null : moment(start, pinned_h.value).getUTCHours()
  })

  return { hover_h, pinned_h, at_h, pinnedHourOfDay }
})
