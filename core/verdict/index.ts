/**
 * A judgement as a value. Numbers are SI and carry their unit; words are added by the interface, so that neither
 * units nor languages freeze into a tape.
 */
export interface Verdict {
  /** good: go on; caution: look first; bad: stop; open: too soon to tell, or these readings cannot decide it. */
  outcome: 'good' | 'caution' | 'bad' | 'open'
  code: string
  reasons: Reason[]
  numbers: Quantity[]
  /** Where rule or formula come from. */
  source: string
  /** Code of the caution that belongs beside it. */
  caution?: string
}

export interface Reason {
  code: string
  numbers?: Quantity[]
}

export interface Quantity {
  name: string
  value: number
  unit: 'kg' | 'Pa' | 'K' | 's' | 'mL' | 'share' | 'count'
  /** One standard deviation, in the same unit; left out where the number is exact. */
  sigma?: number
}

/** Version of the judging code, stored with each verdict: it is never silently judged again. */
export const ENGINE_VERSION = 1
