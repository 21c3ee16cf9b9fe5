import { doubtOf, movedWhen, type OnTheScale, onTheScale, type Transfer } from '../tape'

/**
 * What has moved when the scale reads so much, mg; undefined: it reads what cannot be (zeroed in mid-run, the wrong way), and
 * what was noted last stands until somebody has looked.
 * @param at ms
 */
export function liveNetMg(transfer: Transfer, liveMg: number, at: number): number | undefined {
  const doubt = doubtOf(transfer, { at, weightMg: liveMg })
  // A long way since the last note is what a live scale is for.
  if (doubt && doubt !== 'jump') return undefined
  const { use, segments, amountMg } = transfer
  const segment = segments.at(-1)!
  return amountMg + movedWhen(use, segment, liveMg) - movedWhen(use, segment, segment.lastMg)
}

export interface StandsNow {
  scale: OnTheScale
  /** Gross as it was noted last, mg. */
  notedMg: number
  /** How full it is against its limit; undefined: no limit is known. */
  share: number | undefined
}

/**
 * The cylinder as it stands on its scale this moment: a limit does not wait for a note. Page, Bench and alarms ask this.
 * @param netMg what has moved by now, where its scale speaks
 */
export function standsNow(
  transfer: Transfer,
  cylinder: Parameters<typeof onTheScale>[1],
  netMg: number = transfer.amountMg,
): StandsNow {
  const noted = onTheScale(transfer, cylinder)
  const sinceMg = (transfer.use === 'recover' ? 1 : -1) * (netMg - transfer.amountMg)
  const grossMg = noted.grossMg + sinceMg
  const { tareMg, grossLimitMg } = cylinder
  return {
    scale: {
      ...noted,
      grossMg,
      ...(noted.leftMg !== undefined && { leftMg: noted.leftMg - sinceMg }),
    },
    notedMg: noted.grossMg,
    share: grossLimitMg === undefined ? undefined : (grossMg - tareMg) / (grossLimitMg - tareMg),
  }
}
