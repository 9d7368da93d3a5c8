/** The four weights of a finding, each with a word and a shape, so that colour is never alone. */
import type { Finding } from '@/api/client'

export type Severity = Finding['severity']

const ORDER: readonly Severity[] = ['stop', 'mend', 'mind', 'good']

export const WORDS: Record<Severity, string> = { stop: 'Stop', mend: 'Mend', mind: 'Mind', good: 'Good' }

/** The heaviest weight among findings; good when there is none. */
export function worst(findings: readonly Finding[]): Severity {
  return ORDER.find((severity) => findings.some((finding) => finding.severity === severity)) ?? 'good'
}

/** Heaviest first, otherwise in the order given. */
export function byWeight(findings: readonly Finding[]): Finding[] {
  return [...findings].sort((a, b) => ORDER.indexOf(a.severity) - ORDER.indexOf(b.severity))
}
