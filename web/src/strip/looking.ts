/** Another start of the outage looked at on the strip: the design stays as it is, and any edit goes back to its plan. */
import { defineStore, storeToRefs } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'

import { api, outcome, refusal, SILENT, type Endurance } from '@/api/client'
import { useDesign } from '@/design/store'

export const useLooking = defineStore('looking', () => {
  const { document, endurance } = storeToRefs(useDesign())
  const found = shallowRef<Endurance | null>(null)
  const trouble = ref('')
  let newestLook = 0

  /** What the strip shows: the start looked at, else the planned outage. */
  const shown = computed(() => found.value ?? endurance.value)
  const isLooking = computed(() => found.value !== null)

  /**
   * Look at the same house through an outage that begins at another moment, under the weather year's sky; with another charge
   * where that is said.
   */
  async function lookAt(start: string, duration_h: number, begins_frac?: number): Promise<void> {
    if (!document.value) return
    const look = ++newestLook
    const outage = { ...document.value.outage, start, duration_h, sky_from: 'year' as const }
    const bank = {
      ...document.value.bank,
      ...(begins_frac === undefined ? {} : { start_soc_frac: begins_frac }),
    }
    const answer = await outcome(
      api.POST('/api/assessments/endurance', { body: { ...document.value, outage, bank } }),
    )
    if (look !== newestLook) return
    trouble.value =
      answer.kind === 'answer' ? '' : answer.kind === 'refused' ? refusal(answer.problem) : SILENT
    if (answer.kind === 'answer') found.value = answer.value
  }

  function back(): void {
    newestLook += 1
    found.value = null
    trouble.value = ''
  }

  watch(document, back)
  return { shown, isLooking, trouble, lookAt, back }
})
