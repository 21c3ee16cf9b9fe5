import type { JobState } from './state'

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
 * What the drain bottle says counts once, with what was noted beside it.
 */
export function oilMoves(state: JobState): OilMove[] {
  const { outMl, partsMl } = state.oil
  const moves: OilMove[] = []
  const drained = outMl + state.drainedMl
  const move = (key: string, from: OilPlace, to: OilPlace, volumeMl: number): OilMove => ({
    key,
    what: 'oil',
    oil: null,
    from,
    to,
    bottleId: null,
    volumeMl,
    at: state.lastAt,
  })
  if (drained > 0) moves.push(move('out', 'system', 'waste', drained))
  if (partsMl > 0) moves.push(move('parts', 'system', 'part', partsMl))
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
