/** Whether the server can work figures out yet: just after its start it loads, and the very first time compiles, the model. */
import { useTimeoutFn } from '@vueuse/core'
import { readonly, ref, type Ref } from 'vue'

import { api, outcome } from '@/api/client'

const ASK_AGAIN_MS = 1000

/** True while figures have to wait; asked again until they need not. */
export function useReadiness(): Readonly<Ref<boolean>> {
  const isWaiting = ref(false)
  const again = useTimeoutFn(() => void ask(), ASK_AGAIN_MS, { immediate: false })

  async function ask(): Promise<void> {
    const answer = await outcome(api.GET('/api/health'))
    // Silence has words of its own elsewhere.
    isWaiting.value = answer.kind === 'answer' && !answer.value.is_ready
    if (isWaiting.value) again.start()
  }

  void ask()
  return readonly(isWaiting)
}
