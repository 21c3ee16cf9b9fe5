import { differenceSigmaMg, divisionMg, twoScalesSigmaMg } from '../../scales'

/** What a transfer is for: gas into a cylinder, or out of it. */
export type Use = 'recover' | 'charge'
/** gross: the whole cylinder, absolute whichever scale it is; net: scale zeroed with the cylinder on it. */
export type WeighMode = 'gross' | 'net'

/** What a weight may be instead of what it says. */
export type WeighingDoubt =
  /** Against the direction of the transfer: slip, nudge, hose, or gas flowing back. */
  | 'wrong-way'
  /** More than the rate so far explains. */
  | 'jump'
  /** A zeroed scale that stands at zero again. */
  | 'zeroed-again'
  /** Charging from a zeroed scale, written without its minus. */
  | 'minus-missing'
  /** The transfer as a whole would have gone the wrong way, by a lot. */
  | 'negative-in-all'

export interface Weighing {
  entryId: string
  at: number
  /** As the scale read it. */
  weightMg: number
  /** Index of its scale in the transfer. */
  segment: number
  doubt?: WeighingDoubt
}

/** The time that the cylinder stood on one scale. */
export interface Segment {
  /** The entry that put it there. */
  openedBy: string
  scale: string
  mode: WeighMode
  /** What the scale counts in; null: not known. */
  divisionMg: number | null
  /** The piece of kit; null: not named. */
  scaleId: string | null
  /** How far it may be off over its range; null: not known. */
  accuracyMg: number | null
  /** Written with its sign. Old entries took a minus on a zeroed scale, or none. */
  signed: boolean
  /** The valve was shut while it changed over. */
  valveShut: boolean
  firstMg: number
  lastMg: number
  lowestMg: number
  highestMg: number
  /** The fastest that it has moved in the sense of its transfer between two weights of one spell; 0: not known. */
  fastestMgPerMs: number
}

interface Common {
  transferId: string
  cylinderId: string
  startedAt: number
  endedAt?: number
  /** Place in tape order of its end, or of the last weight noted. */
  order: number
  /** Tare and books at the start; null: not written down. */
  bookedMg: number | null
  segments: Segment[]
  /** In order; of a long transfer thinned in the middle. */
  weighings: Weighing[]
  /** Net moved in the sense of `use`; negative: it went the other way. */
  amountMg: number
  /** One standard deviation of it. */
  sigmaMg: number
  /** Gross weight now, by the newest gross reading, or tare and books and what has moved; null: cannot be known. */
  grossMg: number | null
  /** As much may have moved between two scales, with the valve open and on neither, mg. */
  unseenMg: number
  /** How far two scales disagreed with the valve shut between them: new less old. */
  gaps: { segment: number; gapMg: number }[]
}

/** Between a system and a cylinder on a scale. What went into a cylinder is what its scale saw: no hose keeps any. */
export type Transfer =
  | (Common & { use: 'recover' })
  | (Common & {
      use: 'charge'
      /** Left in the liquid hose when it ended, not in the system. */
      hoseMg: number
      /** What the hose was thought to keep when it began. */
      plannedHoseMg: number
    })

/** Beyond this many weighings every second one in the middle is let go: charts do not need them, sums neither. */
const MOST_KEPT = 240

/** Puts a weighing in its place. What is noted on a scale counts on that scale, whenever it arrives. */
export function addWeighing(
  transfer: Transfer,
  noted: Omit<Weighing, 'segment' | 'doubt'>,
  order: number,
  on: string | undefined,
  last = false,
): void {
  const asked = on === undefined ? -1 : transfer.segments.findIndex((segment) => segment.openedBy === on)
  const index = asked === -1 ? transfer.segments.length - 1 : asked
  const segment = transfer.segments[index]!
  const opens = segment.openedBy === noted.entryId
  const doubt = opens ? undefined : doubtOf(transfer, noted, index)
  if (!opens && !doubt)
    segment.fastestMgPerMs = Math.max(segment.fastestMgPerMs, rateOf(transfer, noted, index))
  if (transfer.endedAt === undefined || last) transfer.order = Math.max(transfer.order, order)
  transfer.weighings.push({ ...noted, segment: index, ...(doubt && { doubt }) })
  // After its end a transfer is over: what comes later is kept, flagged, and does not count.
  if (transfer.endedAt === undefined || last || noted.at <= transfer.endedAt) {
    segment.lowestMg = Math.min(segment.lowestMg, noted.weightMg)
    segment.highestMg = Math.max(segment.highestMg, noted.weightMg)
    if (transfer.endedAt === undefined || last) segment.lastMg = noted.weightMg
  }
  if (transfer.weighings.length > MOST_KEPT) transfer.weighings = thinned(transfer.weighings)
}

/** First and last, whatever is in doubt, the last sixty, and every second one of the rest. */
function thinned(weighings: Weighing[]): Weighing[] {
  const recent = weighings.length - 60
  return weighings.filter(
    (each, i) =>
      i === 0 || i >= recent || i % 2 === 0 || each.doubt || weighings[i - 1]!.segment !== each.segment,
  )
}

/** Amount, doubt and gross weight of a transfer, from its segments. */
export function measure(transfer: Transfer): void {
  const { segments, use } = transfer
  const sign = use === 'recover' ? 1 : -1
  const first = segments[0]!
  const absolute = first.mode === 'gross' || transfer.bookedMg !== null
  const startMg = first.mode === 'gross' ? first.firstMg : (transfer.bookedMg ?? 0)
  transfer.gaps = []
  let grossMg = startMg
  let known = absolute
  // What the scales disagree by, or what nobody saw move, is no amount.
  let unmovedMg = 0
  let variance = 0
  /** Of what may have moved while it stood on no scale. */
  let unseenVariance = 0
  /** The scale that the gross weight so far rests on; undefined: a zeroed scale, or the books. */
  let anchor: Segment | undefined = first
  segments.forEach((segment, index) => {
    const moved = movedOn(segment, use)
    const isBridged = segment.valveShut || (known && segment.mode === 'gross')
    if (index > 0 && !isBridged) unseenVariance += mayHaveMoved(transfer, index) ** 2
    const division = divisionMg(segment.divisionMg, Math.abs(segment.highestMg))
    if (index > 0 && segment.mode === 'gross') {
      const gapMg = segment.firstMg - grossMg
      if (segment.valveShut || !known) {
        unmovedMg += gapMg
        if (segment.valveShut && known) transfer.gaps.push({ segment: index, gapMg })
      } else {
        const before = divisionMg(
          anchor?.divisionMg ?? null,
          Math.abs(anchor?.highestMg ?? segment.highestMg),
        )
        unseenVariance = 0
        variance =
          twoScalesSigmaMg(
            { divisionMg: before, accuracyMg: anchor?.accuracyMg ?? null },
            { divisionMg: division, accuracyMg: segment.accuracyMg },
          ) ** 2
      }
      known = true
      anchor = segment
    } else if (index > 0) anchor = segment
    const enteredMg = segment.mode === 'gross' ? segment.firstMg : grossMg
    grossMg = enteredMg + moved
    if (moved !== 0 || segments.length === 1) variance += differenceSigmaMg(division) ** 2
  })
  transfer.amountMg = sign * (grossMg - startMg - unmovedMg)
  transfer.unseenMg = Math.round(Math.sqrt(unseenVariance))
  transfer.sigmaMg = Math.round(Math.sqrt(variance + unseenVariance))
  transfer.grossMg = known ? grossMg : null
}

/**
 * What may have moved between two scales with the valve open, where the new weight does not follow from the old: as fast as ever in
 * this transfer, or as any hose, over the time between the two, mg.
 */
function mayHaveMoved({ segments, weighings }: Transfer, index: number): number {
  const before = weighings.findLast((each) => each.segment === index - 1)
  const after = weighings.find((each) => each.entryId === segments[index]!.openedBy)
  if (!before || !after) return 0
  const isRateKnown = weighings.length > segments.length
  const fastest = isRateKnown ? Math.max(...segments.map((each) => each.fastestMgPerMs)) : FASTEST_MG_PER_MS
  return fastest * Math.max(0, after.at - before.at)
}

/** Change of the gross weight while the cylinder stood on one scale. */
const movedOn = (segment: Segment, use: Use): number =>
  (use === 'recover' ? 1 : -1) * movedWhen(use, segment, segment.lastMg)

/**
 * Which way a scale counts while gas moves in the sense of its transfer: up while it is recovered, down while it is charged,
 * on a zeroed scale below zero. Old entries left the minus out; where one was written, signs were kept.
 * @param readMg a reading that is not noted yet
 */
function countsBy(use: Use, { mode, signed, lowestMg }: Segment, readMg = lowestMg): 1 | -1 {
  const minusLeftOut = !signed && mode === 'net' && Math.min(lowestMg, readMg) >= 0
  return use === 'recover' || minusLeftOut ? 1 : -1
}

/** What has moved in the sense of a transfer while the cylinder stood on one scale, when that reads so much, mg. */
export function movedWhen(use: Use, segment: Segment, readMg: number): number {
  const mg = readMg - segment.firstMg
  return mg === 0 ? 0 : countsBy(use, segment, readMg) * mg
}

/** What went into the system, less what the hose kept; or came out of it. */
export function netMg(transfer: Transfer): number {
  return transfer.use === 'charge' ? transfer.amountMg - transfer.hoseMg : transfer.amountMg
}

/** How the technician would read the scale of an open transfer when so much more has moved in its sense, mg. */
export function readingAfter(transfer: Transfer, moreMg: number): number {
  const segment = transfer.segments.at(-1)!
  return segment.lastMg + countsBy(transfer.use, segment) * moreMg
}

const G = 1_000
/** What hose, table and a hand do to a reading, mg: less than this against the direction is nothing. */
const NUDGE_MG = 20 * G
/** No hose moves more: kilograms a minute, liquid with a wide hose. */
const FASTEST_MG_PER_MS = 15e6 / 60_000
/** So many times faster than ever before in this transfer is a jump, when it is more than so much. */
const JUMP = { times: 4, leastMg: 500 * G }
/** Weights further apart than this tell no rate, ms. */
const RATE_MS = 10 * 60_000
/** A recovery that is negative by more than this is asked about. */
const NEGATIVE_MG = 500 * G

/** What a weight may be instead of what it says; undefined: it is as was to be expected. */
export function doubtOf(
  transfer: Transfer,
  { at, weightMg }: { at: number; weightMg: number },
  index = transfer.segments.length - 1,
): WeighingDoubt | undefined {
  const segment = transfer.segments[index]!
  const division = divisionMg(segment.divisionMg, Math.abs(segment.highestMg))
  const before =
    transfer.weighings.findLast((each) => each.segment === index && each.at <= at) ??
    transfer.weighings.findLast((each) => each.segment === index)
  if (!before) return undefined
  if (segment.mode === 'net') {
    const zero = segment.firstMg
    if (
      Math.abs(before.weightMg - zero) > 100 * G &&
      Math.abs(weightMg) <= 2 * division &&
      Math.abs(zero) <= 2 * division
    )
      return 'zeroed-again'
    if (segment.signed && transfer.use === 'charge' && weightMg > zero + 50 * G && before.weightMg <= zero)
      return 'minus-missing'
  }
  if (
    transfer.use === 'recover' &&
    weightMg < transfer.weighings[0]!.weightMg - NEGATIVE_MG &&
    segment.mode === transfer.segments[0]!.mode
  )
    return 'negative-in-all'
  const stepMg =
    movedWhen(transfer.use, segment, weightMg) - movedWhen(transfer.use, segment, before.weightMg)
  const slackMg = Math.max(NUDGE_MG, 4 * division)
  if (stepMg < -slackMg) return 'wrong-way'
  const tookMs = Math.max(1_000, at - before.at)
  const explainedMg =
    segment.fastestMgPerMs > 0
      ? JUMP.times * segment.fastestMgPerMs * Math.max(60_000, tookMs)
      : FASTEST_MG_PER_MS * Math.max(60_000, tookMs)
  return stepMg > Math.max(JUMP.leastMg, explainedMg) ? 'jump' : undefined
}

/** How fast it has moved since the weight before, mg/ms; 0: a long time between two was not all spent moving. */
function rateOf(
  transfer: Transfer,
  { at, weightMg }: { at: number; weightMg: number },
  index: number,
): number {
  const segment = transfer.segments[index]!
  const before = transfer.weighings.findLast((each) => each.segment === index)
  if (!before || at - before.at > RATE_MS) return 0
  const stepMg =
    movedWhen(transfer.use, segment, weightMg) - movedWhen(transfer.use, segment, before.weightMg)
  return stepMg / Math.max(10_000, at - before.at)
}
