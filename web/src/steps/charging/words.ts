/** What somebody may have said of a part, or not. */
export const SAID = [
  { value: null, title: 'Not said' },
  { value: true, title: 'Yes' },
  { value: false, title: 'No' },
] as const
