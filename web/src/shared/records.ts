/** Small records that are never changed in place. */

/** A copy with one entry set, or without it where the value is null. */
export function withEntry<T>(
  record: Readonly<Record<string, T>>,
  key: string,
  value: T | null,
): Record<string, T> {
  const others = Object.entries(record).filter(([other]) => other !== key)
  return Object.fromEntries(value === null ? others : [...others, [key, value]])
}
