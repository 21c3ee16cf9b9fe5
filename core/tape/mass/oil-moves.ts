import type { JobState } from '../envelope/state'

/** Where oil can be. waste: drained into the bottle for old oil; part: gone with an old part, or filled into a new one. */
export type OilPlace = 'bottle' | 'system' | 'waste' | 'part' | 'unnamed'

export interface OilMove {
  key: string
  what: 'oil' | 'dye'
  oil: string | null
  from: OilPlace
  to: OilPlace
  bottleId: string | null
  volumeMl: number
  at: number
}

/**
 * Every millilitre of oil that a job moves: drained to waste, gone with old parts, and from a bottle into the system.
 * What the drain bottle says counts once, with what was noted beside it. It was when it was last noted, whatever came after.
 */
export function oilMoves(state: JobState): OilMove[] {
  const { outMl, partsMl, outAt, partsAt } = state.oil
  const moves: OilMove[] = []
  const drained = outMl + state.drainedMl
  const move = (key: string, from: OilPlace, to: OilPlace, volumeMl: number, at: number): OilMove => ({
    key,
    what: 'oil',
    oil: null,
    from,
    to,
    bottleId: null,
    volumeMl,
    at,
  })
  if (drained > 0) moves.push(move('out', 'system', 'waste', drained, Math.max(outAt ?? 0, state.drain.at)))
  if (partsMl > 0) moves.push(move('parts', 'system', 'part', partsMl, partsAt!))
  for (const put of state.oilPut)
    if (put.volumeMl > 0)
      moves.push({
        key: put.entryId,
        what: put.what,
        oil: put.oil,
        from: put.bottleId === null ? 'unnamed' : 'bottle',
        to: 'system',
        bottleId: put.bottleId,
        volumeMl: put.volumeMl,
        at: put.at,
      })
  return moves
}
