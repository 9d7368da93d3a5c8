/** Choices that several pages offer. */
export const YES_NO = [
  { value: true, title: 'yes' },
  { value: false, title: 'no' },
] as const
