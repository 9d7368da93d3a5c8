/** The night theme, kept between visits in this browser. */
import { useStorage } from '@vueuse/core'
import { watchEffect } from 'vue'
import { useTheme } from 'vuetify'

export function useNightTheme() {
  const theme = useTheme()
  const isNight = useStorage('hearthkeep.night', false)
  watchEffect(() => theme.change(isNight.value ? 'night' : 'day'))
  return { isNight, toggle: () => (isNight.value = !isNight.value) }
}
