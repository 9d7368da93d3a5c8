/** A key not yet used, such as controller-2. */
export function freshId(stem: string, used: readonly string[]): string {
  let number = used.length + 1
  while (used.includes(`${stem}-${number}`)) number += 1
  return `${stem}-${number}`
}

/** A key made from a name, not yet used: "Sump pump, 1/3 hp" gives sump-pump-1-3-hp. */
export function idFromName(name: string, used: readonly string[]): string {
  const stem = name
    .toLowerCase()
    .normalize('NFKD')
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '')
    .slice(0, 30)
  return stem && !used.includes(stem) ? stem : freshId(stem || 'load', used)
}
