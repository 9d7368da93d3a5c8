import { computed, type Ref } from 'vue'

import type { ProblemField } from '@/api/client'

/** Fields at fault by row, joined by blanks, so that a row is drawn anew only when its own change. */
export function useRowFaults(problems: Readonly<Ref<readonly ProblemField[]>>) {
  return computed(() => {
    const found = new Map<number, string>()
    for (const { field } of problems.value) {
      const [, row, ...rest] = field.split('.')
      if (field.startsWith('loads.'))
        found.set(Number(row), `${found.get(Number(row)) ?? ''} ${rest.join('.')}`)
    }
    return found
  })
}
