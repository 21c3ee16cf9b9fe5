// A technician at work: acts on the plant, and writes down what he sees. What he leaves out, or writes wrong, is known here.
import { endLevel } from '#core/recovery'
import { type Entry, type EntryBodies, type EntryKind } from '#core/tape'
import type { Dice } from '../../sim/dice'
import { anEntry } from '../an-entry'
import { inSystemKg, later, pass, pressures, reachableKg, type Scale, weighedMg, type World } from './world'

export const SYSTEM_ID = 'machine-1'

export interface Hand {
  world: World
  dice: Dice
  entries: Entry[]
  /** Figures that are wrong, and not put right yet. */
  mistyped: number
  /** Something happened that the tape was not told of: what it says of that is excused. */
  untold: { gas: boolean; nitrogen: boolean; opening: boolean; valves: boolean }
  /** What was so at each entry: what has leaked by then, and what nobody can have weighed, kg. */
  log: { at: number; inItKg: number; leakedKg: number; doubtKg: number }[]
  /** What nobody can have weighed: in hoses and machine, since the job began, kg. */
  doubtKg: number
  write: <K extends EntryKind>(kind: K, body: EntryBodies[K]) => void
}

const allTold = (): Hand['untold'] => ({ gas: false, nitrogen: false, opening: false, valves: false })

export const MG_PER_KG = 1e6
let ids = 0
export const idOf = (what: string) => `${what}-${++ids}`

export function aHand(world: World, dice: Dice, seen: (hand: Hand) => void): Hand {
  const hand: Hand = {
    world,
    dice,
    entries: [],
    mistyped: 0,
    untold: allTold(),
    log: [],
    doubtKg: 0,
    write(kind, body) {
      later(world, 0.02)
      hand.entries.push(
        anEntry(kind, body, { at: world.now, deviceSeq: hand.entries.length + 1, entryId: idOf('entry') }),
      )
      hand.log.push({
        at: world.now,
        inItKg: inSystemKg(world),
        leakedKg: world.leakedKg,
        doubtKg: hand.doubtKg,
      })
      seen(hand)
    },
  }
  return hand
}

export const oneOf = <T>({ dice }: Hand, list: readonly T[]): T =>
  list[Math.floor(dice.even() * list.length)]!
export const chance = ({ dice }: Hand, share: number) => dice.even() < share
export const between = ({ dice }: Hand, least: number, most: number) => least + (most - least) * dice.even()
export const gaugePa = ({ world }: Hand) => Math.max(0, pressures(world).totalPa + world.gaugeOffPa)
export const vacuumPa = ({ world }: Hand) => pressures(world).totalPa * world.vacuumFactor

/** A new tape on the same machine. */
export function beginJob(hand: Hand): void {
  hand.entries = []
  hand.mistyped = 0
  hand.untold = allTold()
  hand.doubtKg = 0
  hand.log = []
  hand.write('job-described', { refrigerant: hand.world.parameters.refrigerant, systemId: SYSTEM_ID })
}

/** What was so when something began: a time of the tape's own. */
export const since = ({ log }: Hand, at: number) => log.find((each) => each.at >= at) ?? log[0]!

/** What stands in the circuit that would be opened is no more than oil and corners keep. */
export const mayOpen = ({ world }: Hand) =>
  reachableKg(world) < 0.08 * world.parameters.system.chargeKg + 0.05

/** How far down it has to come, absolute Pa. */
export function levelPa({ world: { parameters, trade } }: Hand): number {
  const use = trade === 'vehicle' ? 'vehicle' : 'appliance'
  return endLevel(parameters.refrigerant, parameters.system.chargeKg, use).levelPa
}

/** A weight, as the scale shows it; now and then it is typed wrong, and put right afterwards, or not. */
export function noteWeight(
  hand: Hand,
  kind: 'weight-noted' | 'run-ended',
  body: EntryBodies[typeof kind],
): void {
  const slips = chance(hand, 0.04)
  if (!slips) return hand.write(kind, body)
  hand.mistyped++
  hand.write(kind, { ...body, weightMg: Math.round(body.weightMg * oneOf(hand, [0.1, 1.1, 10])) })
  if (chance(hand, 0.1)) return
  const { entryId, version } = hand.entries.at(-1)!
  hand.mistyped--
  hand.write('correction', { entryId, kind, body: { ...body }, reason: 'typed wrong', version })
}

/** A cylinder on one of the scales: gross, or zeroed as it stands. */
export interface Weighing {
  read: () => number
  as: Pick<EntryBodies['run-started'], 'scale' | 'mode' | 'divisionMg' | 'accuracyMg'>
}

export function putOn(hand: Hand, scale: Scale): Weighing {
  const zeroed = chance(hand, 0.3)
  const zeroMg = zeroed ? weighedMg(hand.world, scale) : 0
  return {
    read: () => weighedMg(hand.world, scale) - zeroMg,
    as: {
      scale: scale.name,
      mode: zeroed ? ('net' as const) : ('gross' as const),
      ...(chance(hand, 0.8) && {
        divisionMg: Math.round(scale.divisionKg * MG_PER_KG),
        accuracyMg: Math.round(scale.accuracyKg * MG_PER_KG),
      }),
    },
  }
}

/** Now and then the cylinder goes onto the other scale, mostly with its valve shut. */
export function perhapsOther(hand: Hand, runId: string, now: Weighing): Weighing {
  if (!chance(hand, 0.08)) return now
  const { world } = hand
  const { valve, machine } = world.plant.controls
  const shut = chance(hand, 0.8)
  const other = world.scales.find((each) => each.name !== now.as.scale)!
  hand.write('weight-noted', { runId, weightMg: now.read() })
  if (shut) Object.assign(world.plant.controls, { valve: 'closed', machine: 'off' })
  pass(world, 5)
  const next = putOn(hand, other)
  const said = shut && chance(hand, 0.8)
  hand.write('scale-changed', { runId, weightMg: next.read(), ...next.as, ...(said && { valveShut: true }) })
  Object.assign(world.plant.controls, { valve, machine })
  return next
}
