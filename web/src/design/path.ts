/** Setting one field of a document that is never changed in place. */

type Part = string | number

/** 'bank.parallel' or 'loads.3.running_w' as parts; whole numbers index lists. */
export function parts(path: string): Part[] {
  return path.split('.').map((part) => (/^\d+$/.test(part) ? Number(part) : part))
}

/** A copy of the document with the field at the path replaced; untouched branches are shared. */
export function withValue<T>(document: T, path: string, value: unknown): T {
  return replaced(document, parts(path), value) as T
}

function replaced(node: unknown, [head, ...rest]: Part[], value: unknown): unknown {
  if (head === undefined) return value
  if (Array.isArray(node)) {
    const copy: unknown[] = [...node]
    copy[Number(head)] = replaced(copy[Number(head)], rest, value)
    return copy
  }
  const branch = (node ?? {}) as Record<string, unknown>
  return { ...branch, [head]: replaced(branch[head], rest, value) }
}

/** The value at a path, undefined where there is none. */
export function valueAt(document: unknown, path: string): unknown {
  return parts(path).reduce<unknown>(
    (node, part) => (node as Record<Part, unknown> | undefined)?.[part],
    document,
  )
}

/** The number that was typed at a path, usable or not; where none was, the one that is worked out for it. */
export function typedAt(document: unknown, path: string | null | undefined, worked: number): number {
  const typed = path ? valueAt(document, path) : undefined
  return typeof typed === 'number' ? typed : worked
}
