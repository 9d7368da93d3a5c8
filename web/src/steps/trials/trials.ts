/** What the Trials page asks about the open design; kept while other pages are looked at, and then known as old. */
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'

import { api, outcome, type Reach } from '@/api/client'
import { createSlowAnswer } from '@/api/slowAnswer'
import { sharePercent } from '@/shared/format'

export const useTrials = defineStore('trials', () => {
  const reach = ref<Reach>('week')
  const proof = createSlowAnswer(
    (body) => outcome(api.POST('/api/trials', { params: { query: { reach: reach.value } }, body })),
    {
      variant: () => reach.value,
      long: { trial: 'trials', reach: () => reach.value, of: (found) => found.proof },
    },
  )
  const trials = computed(() => proof.value.value?.trials ?? null)
  /** What is to be said about the design as it stands; none while that is not known. */
  const findings = computed(() => (proof.isCurrent.value ? (proof.value.value?.findings ?? null) : null))
  /** For the rail: the share of starts carried, off the grid the dark days; of an earlier state of the design it is said so. */
  const told = computed(() => {
    if (!trials.value) return '–'
    if (!trials.value.is_asked) return '–'
    const year = trials.value.year
    const share = year
      ? year.dark_days
        ? `dark ${year.dark_days} d`
        : 'all year'
      : sharePercent(trials.value.keep_frac)
    return proof.isCurrent.value ? share : `was ${share}`
  })
  const { isCurrent, isBusy, trouble, progress, ask, cancel } = proof
  return { reach, trials, findings, told, isCurrent, isBusy, trouble, progress, ask, cancel }
})

export const useFailures = defineStore('failures', () =>
  createSlowAnswer((body) => outcome(api.POST('/api/trials/failures', { body })), {
    long: { trial: 'failures', reach: () => 'week', of: (found) => found.failures },
  }),
)

export const useOneMore = defineStore('one-more', () =>
  createSlowAnswer((body) => outcome(api.POST('/api/trials/one-more', { body })), {
    long: { trial: 'one_more', reach: () => 'week', of: (found) => found.one_more },
  }),
)

export const useReliability = defineStore('reliability', () =>
  createSlowAnswer((body) => outcome(api.POST('/api/trials/record', { body }))),
)
