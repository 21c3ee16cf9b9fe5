import { doubtOf, movedWhen, type Transfer, type WeighingDoubt } from '../mass/weighings'

/** What is asked about a weight before it is noted. Never refused: what the scale shows is what it shows. */
export type WeightQuestion =
  | WeighingDoubt
  /** The cylinder would be past its limit. */
  | 'beyond-limit'
  /** The cylinder would weigh less than when it is empty. */
  | 'below-tare'
  /** It is not what tare and books say. */
  | 'off-the-books'

export interface AskedWeight {
  code: WeightQuestion
  /** What may have been meant instead: the same digits with the point elsewhere, where that raises no question. */
  insteadMg: number[]
}

/** What the cylinder on the scale may weigh in all, as far as it is known. */
export interface GrossBounds {
  tareMg: number
  limitMg?: number | undefined
  /** Gross weight by tare and books. */
  bookedMg: number
}

/** A cap, a hose and a worn collar change a tare by less than this, mg. */
const TARE_SLACK_MG = 150_000
const POINT_MOVED = [0.1, 10]

/**
 * What cannot be so, or is unlikely, in the next weight of a running transfer; undefined: nothing to ask.
 * @param grossMg gross weight of the cylinder at the last weight
 */
export function askAboutWeight(
  transfer: Transfer,
  noted: { at: number; weightMg: number },
  cylinder: GrossBounds & { grossMg: number },
): AskedWeight | undefined {
  return withPointMoved(noted.weightMg, (weightMg) => {
    const grossMg = grossAt(transfer, weightMg, cylinder.grossMg)
    if (
      transfer.use === 'recover' &&
      cylinder.limitMg !== undefined &&
      grossMg > cylinder.limitMg &&
      // Once it is past it, the alarm stands; asking each time would teach to press it away.
      cylinder.grossMg <= cylinder.limitMg
    )
      return 'beyond-limit'
    if (grossMg < cylinder.tareMg - TARE_SLACK_MG && cylinder.grossMg >= cylinder.tareMg - TARE_SLACK_MG)
      return 'below-tare'
    return doubtOf(transfer, { at: noted.at, weightMg })
  })
}

/**
 * The same of a weight that is put right later: against the weights before and after it, and what the cylinder can weigh.
 * @param entryId the entry that noted it
 */
export function askAboutCorrection(
  transfer: Transfer,
  entryId: string,
  weightMg: number,
  { tareMg, limitMg }: Omit<GrossBounds, 'bookedMg'>,
): AskedWeight | undefined {
  const index = transfer.weighings.findIndex((each) => each.entryId === entryId)
  const noted = transfer.weighings[index]
  if (!noted) return undefined
  const segment = transfer.segments[noted.segment]!
  const opens = segment.openedBy === entryId
  const next = transfer.weighings[index + 1]
  return withPointMoved(weightMg, (mg) => {
    if (segment.mode === 'gross' && mg < tareMg - TARE_SLACK_MG) return 'below-tare'
    if (segment.mode === 'gross' && transfer.use === 'recover' && limitMg !== undefined && mg > limitMg)
      return 'beyond-limit'
    const upTo = { ...transfer, weighings: transfer.weighings.slice(0, index) }
    const doubt = opens ? undefined : doubtOf(upTo, { at: noted.at, weightMg: mg }, noted.segment)
    if (doubt || !next || next.segment !== noted.segment || next.doubt) return doubt
    const corrected = {
      ...transfer,
      weighings: [...upTo.weighings, { ...noted, weightMg: mg }],
      segments: transfer.segments.map((each) =>
        each === segment && opens ? { ...each, firstMg: mg } : each,
      ),
    }
    return doubtOf(corrected, next, next.segment)
  })
}

/** Gross weight of the cylinder when the scale reads so much. */
function grossAt(transfer: Transfer, weightMg: number, grossMg: number): number {
  const { use, segments } = transfer
  const segment = segments.at(-1)!
  const movedMg = movedWhen(use, segment, weightMg) - movedWhen(use, segment, segment.lastMg)
  return grossMg + (use === 'recover' ? movedMg : -movedMg)
}

/**
 * How far a first gross weight may be from tare and books before somebody should look: up to 100 g, of a small cylinder
 * less. `weighed_off` in the database goes by the same.
 */
function startSlackMg(bookedMg: number): number {
  return Math.max(20_000, Math.min(100_000, 0.01 * bookedMg))
}

/** What cannot be so, or is unlikely, in the first gross weight. */
export function askAboutStart(
  use: Transfer['use'],
  weightMg: number,
  { tareMg, limitMg, bookedMg }: GrossBounds,
): AskedWeight | undefined {
  return withPointMoved(weightMg, (mg) => {
    if (mg < tareMg - TARE_SLACK_MG) return 'below-tare'
    if (use === 'recover' && limitMg !== undefined && mg > limitMg) return 'beyond-limit'
    return Math.abs(mg - bookedMg) > startSlackMg(bookedMg) ? 'off-the-books' : undefined
  })
}

function withPointMoved(
  weightMg: number,
  question: (weightMg: number) => WeightQuestion | undefined,
): AskedWeight | undefined {
  const code = question(weightMg)
  if (!code) return undefined
  const insteadMg = POINT_MOVED.map((times) => Math.round(weightMg * times)).filter(
    (mg) => mg !== weightMg && question(mg) === undefined,
  )
  return { code, insteadMg }
}
