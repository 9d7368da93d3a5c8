/** Set by the service worker on an answer that it had kept, since nothing answered. */
export const KEPT_MARK = 'X-Hearth-Keep-Kept'

/** The service worker: registered by the pages that have to open while nothing answers, in the built application only. */
export async function keepOnDevice(): Promise<boolean> {
  if (!import.meta.env.PROD || !('serviceWorker' in navigator)) return false
  try {
    await navigator.serviceWorker.register('/worker.js')
    await navigator.serviceWorker.ready
    return true
  } catch {
    return false
  }
}
