/** The component library, dressed once: themes from the palette, defaults for every control. */
import 'vuetify/styles/core'

import { createVuetify } from 'vuetify'
import { aliases, mdi } from 'vuetify/iconsets/mdi-svg'

import { day, night, type Palette } from './palette'

const nonce = document.querySelector<HTMLMetaElement>('meta[property="csp-nonce"]')?.nonce ?? ''

function theme(palette: Palette, dark: boolean) {
  return {
    dark,
    colors: {
      ...palette,
      background: palette.paper,
      surface: palette.sheet,
      primary: palette.pine,
      secondary: palette.slate,
      error: palette.wine,
      'on-background': palette.ink,
      'on-surface': palette.ink,
    },
    variables: { 'medium-emphasis-opacity': 0.86, 'high-emphasis-opacity': 1, 'border-opacity': 0.3 },
  }
}

const field = {
  variant: 'outlined',
  density: 'compact',
  hideDetails: 'auto',
  color: 'pine',
  rounded: 'sm',
} as const

export const vuetify = createVuetify({
  theme: {
    cspNonce: nonce,
    defaultTheme: 'day',
    themes: { day: theme(day, false), night: theme(night, true) },
  },
  icons: { defaultSet: 'mdi', aliases, sets: { mdi } },
  defaults: {
    VBtn: { variant: 'text', density: 'comfortable', rounded: 'sm', ripple: false },
    VTextField: field,
    VSelect: { ...field, menuProps: { contentClass: 'hk-menu' } },
    VAutocomplete: { ...field, menuProps: { contentClass: 'hk-menu' } },
    VTextarea: { ...field, autoGrow: true, rows: 2 },
    VCheckbox: { density: 'compact', hideDetails: true, color: 'pine', ripple: false },
    VDialog: { maxWidth: 520, scrim: 'ink' },
    VMenu: { offset: 4 },
    VListItem: { density: 'compact' },
    VTooltip: { location: 'bottom', openDelay: 400 },
  },
})
