import type { Ask, HandAnswer, ProgrammeOrder, StationReport, Stop } from '#core/programme'
import type { Channel } from '#core/samples'
import { stationOf, type StationSetup, type StationState } from '../sim'
import type { Rig } from './rig'
import { readWhole, replace } from './spool'

/** A service station as the gateway's file names it. */
export interface StationConfig {
  station: StationSetup
  seed: number
  /** How much faster than life. */
  speed: number
  channels: Channel[]
}

interface Kept {
  state: StationState
  speed: number
  programmeId: string
  /** What it said, and nobody has taken yet. */
  waiting: { programmeId: string; reports: StationReport[] }[]
}

const STEP_S = 0.25
/** More are not taken in one batch. */
const MOST_AT_ONCE = 100

/**
 * A simulated service station behind the gateway. What it has to say is kept on disk with it, until it was taken. One that finds
 * itself in the middle of a programme when it starts has been without power: it stops, shuts, and says so.
 */
export function stationRig(setup: StationConfig, keptIn: string, clock: () => number): Rig {
  const kept = readWhole<Kept>(keptIn)
  const station = stationOf(setup.station, setup.seed, kept?.state)
  let speed = kept?.speed ?? setup.speed
  let programmeId = kept?.programmeId ?? ''
  let owedS = 0
  const waiting = kept?.waiting ?? []
  const take = (said: Omit<StationReport, 'at'>[]) => {
    if (said.length === 0) return
    const reports = said.map((each) => ({ ...each, at: clock() }))
    const own = waiting.find((each) => each.programmeId === programmeId)
    if (own) own.reports.push(...reports)
    else waiting.push({ programmeId, reports })
    keep()
  }
  const keep = () =>
    replace(keptIn, JSON.stringify({ state: station.state, speed, programmeId, waiting } satisfies Kept))
  if (kept) take(station.stop('power-lost'))

  return {
    advance(realMs) {
      owedS += (realMs / 1_000) * speed
      for (; owedS >= STEP_S; owedS -= STEP_S) take(station.advance())
      const said = station.read()
      return Object.fromEntries(
        Object.entries(said).filter(([channel]) => setup.channels.includes(channel as Channel)),
      )
    },
    obey(command) {
      if (typeof command.speed === 'number' && command.speed >= 1 && command.speed <= 60) {
        speed = command.speed
        return true
      }
      const order = command.programme as ProgrammeOrder | undefined
      if (order) {
        // It is at another one: what waits for that one is said first.
        if (station.state.order) return false
        programmeId = order.programmeId
        take(station.order(order))
        return true
      }
      const answer = command.answer as { programmeId: string; ask: Ask; say: HandAnswer } | undefined
      if (answer?.programmeId === programmeId) {
        take(station.answer(answer.ask, answer.say))
        return true
      }
      const stop = command.stop as { programmeId: string; why: Stop } | undefined
      if (stop?.programmeId === programmeId) {
        take(station.stop(stop.why))
        return true
      }
      return false
    },
    state: () => ({ station: true, speed, busy: station.state.order !== null }),
    keep,
    reports: {
      next: () => waiting[0] && { ...waiting[0], reports: waiting[0].reports.slice(0, MOST_AT_ONCE) },
      taken(id, nr) {
        const own = waiting.find((each) => each.programmeId === id)
        if (!own) return
        own.reports = own.reports.filter((each) => each.nr > nr)
        if (own.reports.length === 0) waiting.splice(waiting.indexOf(own), 1)
        keep()
      },
    },
  }
}
