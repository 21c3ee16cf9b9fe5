import type { Channel } from '#core/samples'

/** A sample as it came, before anybody has looked at it. */
export interface SentSample {
  device?: unknown
  channel?: unknown
  seq?: unknown
  at?: unknown
  value?: unknown
}

export type SampleProblem =
  | 'no-sample'
  | 'other-device'
  | 'unknown-channel'
  | 'no-sequence'
  | 'no-time'
  | 'in-the-future'
  | 'too-old'
  | 'no-number'
  | 'out-of-range'

export interface RefusedSample {
  /** Its place in the batch. */
  index: number
  problem: SampleProblem
}

/** A device's clock may be ahead by so much; what it kept while it was away may be so old. */
const AHEAD_MS = 60_000
export const OLDEST_DAYS = 30
const OLDEST_MS = OLDEST_DAYS * 86_400_000

export interface Fit {
  channel: Channel
  /** ms */
  at: number
  seq: number
  value: number
}

export type Ranges = Map<string, { least: number; most: number }>

/** A sample that can be taken, or why it cannot. */
export function look(sent: unknown, deviceId: string, ranges: Ranges, nowMs: number): Fit | SampleProblem {
  if (typeof sent !== 'object' || sent === null) return 'no-sample'
  const { device, channel, seq, at, value } = sent as SentSample
  if (device !== undefined && device !== deviceId) return 'other-device'
  if (typeof channel !== 'string') return 'unknown-channel'
  const range = ranges.get(channel)
  if (!range) return 'unknown-channel'
  if (!Number.isSafeInteger(seq) || (seq as number) < 0) return 'no-sequence'
  // ISO 8601 with a zone, or milliseconds since 1970.
  const ms =
    typeof at === 'number'
      ? at
      : typeof at === 'string' && /(Z|[+-]\d\d:?\d\d)$/.test(at)
        ? Date.parse(at)
        : NaN
  if (!Number.isFinite(ms)) return 'no-time'
  if (ms > nowMs + AHEAD_MS) return 'in-the-future'
  if (ms < nowMs - OLDEST_MS) return 'too-old'
  if (typeof value !== 'number' || !Number.isFinite(value)) return 'no-number'
  if (value < range.least || value > range.most) return 'out-of-range'
  return { channel: channel as Channel, at: Math.round(ms), seq: seq as number, value }
}
