/** The night theme, kept between visits in this browser; a page that is read in the dark may ask for it while it is open. */
import { useStorage } from '@vueuse/core'
import { computed, ref, watchEffect } from 'vue'
import { useTheme } from 'vuetify'

/** A page asks for it, and somebody who sees it there chose the day all the same. */
const isAsked = ref(false)
const isDeclined = ref(false)

export function useNightTheme() {
  const theme = useTheme()
  const chosen = useStorage('hearthkeep.night', false)
  const isNight = computed(() => chosen.value || (isAsked.value && !isDeclined.value))
  watchEffect(() => theme.change(isNight.value ? 'night' : 'day'))

  function toggle(): void {
    const next = !isNight.value
    isDeclined.value = !next
    chosen.value = next
  }

  /** Ask for the night theme while a page is open, or no longer. */
  function darken(isDark: boolean): void {
    isAsked.value = isDark
  }

  return { isNight, toggle, darken }
}
