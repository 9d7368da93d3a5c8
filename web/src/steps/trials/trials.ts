/** The trials of the open design: asked for one at a time, and shown as old once the design has moved on. */
import { defineStore, storeToRefs } from 'pinia'
import { computed, ref, shallowRef } from 'vue'

import { api, outcome, refusal, SILENT, type Design, type Proof, type Reach } from '@/api/client'
import { useDesign } from '@/design/store'
import { sharePercent } from '@/shared/format'

export const useTrials = defineStore('trials', () => {
  const { document, id } = storeToRefs(useDesign())
  const reach = ref<Reach>('week')
  const found = shallowRef<{ id: string; question: string; proof: Proof } | null>(null)
  const trouble = ref('')
  const isBusy = ref(false)
  let isAskedAgain = false

  const questionOf = (design: Design) => `${reach.value} ${JSON.stringify(design)}`
  const proof = computed(() => (found.value?.id === id.value ? found.value.proof : null))
  const trials = computed(() => proof.value?.trials ?? null)
  /** What is to be said about the design as it stands; none while that is not known. */
  const findings = computed(() => (isCurrent.value ? (proof.value?.findings ?? null) : null))
  const isCurrent = computed(
    () =>
      trials.value !== null &&
      document.value !== null &&
      found.value?.question === questionOf(document.value),
  )
  /** For the rail: the share of starts carried; of an earlier state of the design it is said so. */
  const told = computed(() => {
    if (!trials.value) return '–'
    const share = sharePercent(trials.value.keep_frac)
    return isCurrent.value ? share : `was ${share}`
  })

  /** Ask for the design as it stands; while a trial is under way the newest design is asked once it has ended. */
  async function ask(): Promise<void> {
    if (isBusy.value) {
      isAskedAgain = true
      return
    }
    const asked = document.value
    if (!asked || isCurrent.value) return
    const [of, question] = [id.value, questionOf(asked)]
    isBusy.value = true
    const query = { reach: reach.value }
    const answer = await outcome(api.POST('/api/trials', { params: { query }, body: asked }))
    isBusy.value = false
    trouble.value =
      answer.kind === 'answer' ? '' : answer.kind === 'refused' ? refusal(answer.problem) : SILENT
    if (answer.kind === 'answer') found.value = { id: of, question, proof: answer.value }
    if (isAskedAgain) {
      isAskedAgain = false
      await ask()
    }
  }

  return { reach, trials, findings, isCurrent, told, trouble, isBusy, ask }
})
