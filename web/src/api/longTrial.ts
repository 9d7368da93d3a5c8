/** A trial that takes too long to be waited for: asked as a job of the saved design, and followed to its end. */
import { api, outcome, refusal, type Outcome, type Reach, type TrialFound, type TrialJob } from './client'

const LOOK_EVERY_MS = 500

export type TrialKind = TrialJob['trial']

export interface LongTrial {
  /** Follow the job to its end; none where it was left. What is said in between goes to `tell`. */
  follow: (tell: (job: TrialJob) => void) => Promise<Outcome<TrialFound> | { kind: 'left'; why: string }>
  /** Leave it as it stands. */
  leave: () => void
}

export function createLongTrial(design_id: string, trial: TrialKind, reach: Reach): LongTrial {
  let job_id = ''
  let isLeft = false

  async function follow(
    tell: (job: TrialJob) => void,
  ): Promise<Outcome<TrialFound> | { kind: 'left'; why: string }> {
    const asked = await outcome(
      api.POST('/api/designs/{design_id}/trial-jobs', {
        params: { path: { design_id }, query: { trial, reach } },
      }),
    )
    if (asked.kind !== 'answer') return asked
    let job = asked.value
    job_id = job.id
    const path = { job_id }
    while (job.is_live && !isLeft) {
      tell(job)
      await new Promise((resolve) => setTimeout(resolve, LOOK_EVERY_MS))
      const now = await outcome(api.GET('/api/trial-jobs/{job_id}', { params: { path } }))
      if (now.kind === 'refused') return { kind: 'left', why: refusal(now.problem) }
      // A server that is silent for a moment goes on with it afterwards.
      if (now.kind === 'answer') job = now.value
    }
    if (isLeft) {
      await outcome(api.POST('/api/trial-jobs/{job_id}/cancel', { params: { path } }))
      return { kind: 'left', why: 'Cancelled.' }
    }
    if (job.cancelled) return { kind: 'left', why: 'Cancelled.' }
    if (job.fault) return { kind: 'left', why: job.fault }
    return outcome(api.GET('/api/trial-jobs/{job_id}/answer', { params: { path } }))
  }

  return { follow, leave: () => (isLeft = true) }
}
