/** Keys of changes, so that one whose answer was lost can be sent again and is done once. */

/** Gives the same key for the same change on the same revision, and another for any other. */
export function createKeys(): (change: unknown, revision: number) => string {
  let last: { change: unknown; revision: number; key: string } | null = null
  return (change, revision) => {
    if (last?.change !== change || last?.revision !== revision)
      last = { change, revision, key: crypto.randomUUID() }
    return last.key
  }
}
