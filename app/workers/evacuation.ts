import { expose } from 'comlink'
import { evacuationCurve, type EvacuationRig } from '#core/vacuum'

export interface CurveAsked {
  volumeM3: number
  fromPa: number
  toPa: number
  leakPaM3s: number
  sets: { name: string; rig: EvacuationRig }[]
}

export interface CurveOf {
  name: string
  /** Seconds and absolute Pa. */
  points: [atS: number, pressurePa: number][]
}

/** Every hose set's way down, away from the page's own thread. */
const api = {
  compare({ volumeM3, fromPa, toPa, leakPaM3s, sets }: CurveAsked): CurveOf[] {
    return sets.map(({ name, rig }) => ({
      name,
      points: evacuationCurve(rig, volumeM3, fromPa, toPa, leakPaM3s).map(({ atS, pressurePa }) => [
        atS,
        pressurePa,
      ]),
    }))
  },
}
export type EvacuationWorker = typeof api
expose(api)
