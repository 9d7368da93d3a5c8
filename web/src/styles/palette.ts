/** Every colour of the application by its role, for day and night. Text colours meet WCAG AA on the paper. */
export interface Palette {
  /** Page. */ paper: string
  /** Raised parts: strip, fields. */ sheet: string
  /** Rail and side panes. */ rail: string
  /** Text. */ ink: string
  /** Lesser text. */ slate: string
  /** Ruled lines. */ rule: string
  /** Stored energy. */ ember: string
  /** Stored energy, as text. */ emberInk: string
  /** Sun. */ sun: string
  /** Sun, as text. */ sunInk: string
  /** Good, and actions. */ pine: string
  /** Danger. */ wine: string
  /** Ease tier. */ umber: string
  /** Night hours on the strip. */ dusk: string
  /** Hours in which a load is off. */ idle: string
  /** Top bar, and its text. */ bar: string
  barInk: string
}

export const day: Palette = {
  paper: '#F7F3EA',
  sheet: '#FFFDF6',
  rail: '#EEE8DA',
  ink: '#22303A',
  slate: '#53626C',
  rule: '#DDD5C3',
  ember: '#C4572A',
  emberInk: '#A34519',
  sun: '#D9A441',
  sunInk: '#7A5A10',
  pine: '#2F6250',
  wine: '#8E2A3B',
  umber: '#75654A',
  dusk: '#DCE0DF',
  idle: '#E6DFCF',
  bar: '#22303A',
  barInk: '#F1EBDD',
}

export const night: Palette = {
  paper: '#171D22',
  sheet: '#1E262C',
  rail: '#12171B',
  ink: '#ECE5D6',
  slate: '#A3B1BA',
  rule: '#35424B',
  ember: '#E07A4C',
  emberInk: '#F0976F',
  sun: '#DDB052',
  sunInk: '#E5BF6C',
  pine: '#86C5AA',
  wine: '#EE8E9C',
  umber: '#C2AE8B',
  dusk: '#273038',
  idle: '#303B43',
  bar: '#0D1114',
  barInk: '#ECE5D6',
}
