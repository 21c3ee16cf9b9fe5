import { readFileSync } from 'node:fs'
import type { StationReport } from '#core/programme'
import type { Channel } from '#core/samples'
import {
  mayControl,
  modeOf,
  type Player,
  playerOf,
  readScenario,
  type Scenario,
  ScenarioError,
  type SensorChanges,
  sensorsOf,
  sensorsWith,
  type Standing,
} from '../sim'
import { readWhole, replace } from './spool'

/** A rig as the gateway's file names it. */
export interface RigSetup {
  scenario: string
  seed: number
  /** How much faster than life. */
  speed: number
  /** So far it has gone already when it begins, s of its own time. */
  aheadS?: number
  channels: Channel[]
  sensors?: SensorChanges
}

/** After its end the instruments stay on for a while, s of real time: whoever comes later finds them as they were left. */
const LINGERS_S = 1_800

/** A plant that goes on in real time, and what its instruments say. It is kept on disk, and goes on from there. */
export interface Rig {
  /** Goes on by so much real time. @returns what its instruments say now; undefined: it has come to its end */
  advance(realMs: number): Partial<Record<Channel, number>> | undefined
  /** What was asked of it. @returns false when it does not know that */
  obey(command: Record<string, unknown>): boolean
  state(): object
  keep(): void
  /** Of a station: what it has to say of its programme, in its count, and has not been taken yet. */
  reports?: {
    next(): { programmeId: string; reports: StationReport[] } | undefined
    taken(programmeId: string, nr: number): void
  }
}

interface Kept {
  standing: Standing
  speed: number
  overS: number
}

export function rigOf(setup: RigSetup, scenarioFile: string, keptIn: string): Rig {
  const scenario = readScenario(JSON.parse(readFileSync(scenarioFile, 'utf8')))
  const sensors = sensorsOf(sensorsWith(setup.sensors), setup.seed)
  const kept = readWhole<Kept>(keptIn)
  let player = kept ? playerOf(scenario, kept.standing) : begin(scenario, setup)
  let speed = kept?.speed ?? setup.speed
  let overS = kept?.overS ?? 0
  let owedS = 0
  return {
    advance(realMs) {
      if (player.ended()) {
        overS += realMs / 1_000
        if (overS > LINGERS_S) return undefined
      } else {
        overS = 0
        owedS += (realMs / 1_000) * speed
        for (; owedS >= scenario.stepS && !player.ended(); owedS -= scenario.stepS) player.advance()
      }
      const said = sensors.read(scenario.parameters, player.state)
      return Object.fromEntries(
        Object.entries(said).filter(([channel]) => setup.channels.includes(channel as Channel)),
      )
    },
    obey(command) {
      if (command.restart === true) {
        player = begin(scenario, { ...setup, aheadS: 0 })
        overS = owedS = 0
        return true
      }
      if (typeof command.speed === 'number' && command.speed >= 1 && command.speed <= 60) {
        speed = command.speed
        return true
      }
      try {
        Object.assign(player.state.controls, mayControl(command.set))
        return true
      } catch (error) {
        if (error instanceof ScenarioError) return false
        throw error
      }
    },
    state: () => ({
      scenario: scenario.name,
      mode: modeOf(player.state),
      speed,
      ended: player.ended(),
      controls: player.state.controls,
    }),
    keep: () => replace(keptIn, JSON.stringify({ standing: player.standing(), speed, overS } satisfies Kept)),
  }
}

function begin(scenario: Scenario, { aheadS = 0 }: Pick<RigSetup, 'aheadS'>): Player {
  const player = playerOf(scenario)
  while (player.state.seconds < aheadS && !player.ended()) player.advance()
  return player
}
