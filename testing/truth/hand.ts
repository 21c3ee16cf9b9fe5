// A technician at work: acts on the plant, and writes down what he sees. What he leaves out, or writes wrong, is known here.
import { endLevel, type RecoveryEndKind } from '#core/recovery'
import { type Entry, type EntryBodies, type EntryKind } from '#core/tape'
import type { Dice } from '../../sim/dice'
import { anEntry } from '../an-entry'
import {
  fillTo,
  hangOn,
  inSystemKg,
  later,
  letGo,
  open,
  pass,
  pressures,
  ventNitrogen,
  type VesselId,
  weighedMg,
  type World,
} from './world'

export const SYSTEM_ID = 'machine-1'

export interface Hand {
  world: World
  dice: Dice
  entries: Entry[]
  /** Figures that are wrong, and not put right yet. */
  mistyped: number
  /** Something happened that the tape was not told of: what it says of that is excused. */
  untold: { gas: boolean; nitrogen: boolean; opening: boolean }
  /** What was so at each entry: what has leaked by then, and what nobody can have weighed, kg. */
  log: { at: number; inItKg: number; leakedKg: number; doubtKg: number }[]
  /** What nobody can have weighed: in hoses and machine, since the job began, kg. */
  doubtKg: number
  write: <K extends EntryKind>(kind: K, body: EntryBodies[K]) => void
}

const KG = 1e6
let ids = 0
const idOf = (what: string) => `${what}-${++ids}`

export function aHand(world: World, dice: Dice, seen: (hand: Hand) => void): Hand {
  const hand: Hand = {
    world,
    dice,
    entries: [],
    mistyped: 0,
    untold: { gas: false, nitrogen: false, opening: false },
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

const oneOf = <T>({ dice }: Hand, list: readonly T[]): T => list[Math.floor(dice.even() * list.length)]!
const chance = ({ dice }: Hand, share: number) => dice.even() < share
const between = ({ dice }: Hand, least: number, most: number) => least + (most - least) * dice.even()
const gaugePa = ({ world }: Hand) => Math.max(0, pressures(world).totalPa + world.gaugeOffPa)
const vacuumPa = ({ world }: Hand) => pressures(world).totalPa * world.vacuumFactor

/** A new tape on the same machine. */
export function beginJob(hand: Hand): void {
  hand.entries = []
  hand.mistyped = 0
  hand.untold = { gas: false, nitrogen: false, opening: false }
  hand.doubtKg = 0
  hand.log = []
  hand.write('job-described', { refrigerant: hand.world.parameters.refrigerant, systemId: SYSTEM_ID })
}

/** A weight, as the scale shows it; now and then it is typed wrong, and put right afterwards, or not. */
function noteWeight(hand: Hand, kind: 'weight-noted' | 'run-ended', body: EntryBodies[typeof kind]): void {
  const slips = chance(hand, 0.04)
  if (!slips) return hand.write(kind, body)
  hand.mistyped++
  hand.write(kind, { ...body, weightMg: Math.round(body.weightMg * oneOf(hand, [0.1, 1.1, 10])) })
  if (chance(hand, 0.1)) return
  const { entryId, version } = hand.entries.at(-1)!
  hand.mistyped--
  hand.write('correction', { entryId, kind, body: { ...body }, reason: 'typed wrong', version })
}

/** The cylinder on its scale: gross, or zeroed as it stands. */
function onScale(hand: Hand) {
  const { scale } = hand.world
  const zeroed = chance(hand, 0.3)
  const zeroMg = zeroed ? weighedMg(hand.world) : 0
  return {
    read: () => weighedMg(hand.world) - zeroMg,
    scale: {
      scale: 'floor scale',
      mode: zeroed ? ('net' as const) : ('gross' as const),
      ...(chance(hand, 0.8) && {
        divisionMg: Math.round(scale.divisionKg * KG),
        accuracyMg: Math.round(scale.accuracyKg * KG),
      }),
    },
  }
}

/** Out of it into a cylinder: all of it, down to what is asked, or a part. */
export function pull(hand: Hand, into: VesselId, share: number): void {
  const { world } = hand
  const { plant, parameters } = world
  if (!chance(hand, 0.1)) hand.write('cylinder-chosen', { cylinderId: into, use: 'recover', massMg: null })
  hangOn(world, into)
  const runId = idOf('pull')
  const atFirst = inSystemKg(world)
  const { levelPa } = endLevel(parameters.refrigerant, parameters.system.chargeKg, 'appliance')
  const { read, scale } = onScale(hand)
  hand.write('run-started', { runId, use: 'recover', cylinderId: into, weightMg: read(), ...scale })
  Object.assign(plant.controls, { line: 'machine', machine: 'run', valve: 'liquid', fan: true })
  Object.assign(plant.machine, { cutOut: false, stoppedItself: false })
  const down = () =>
    share < 1 ? inSystemKg(world) <= atFirst * (1 - share) : pressures(world).totalPa < levelPa - 5_000
  for (let i = 0; i < 3 && !down(); i++) {
    pass(world, 600, down)
    if (i < 2 && chance(hand, 0.5)) noteWeight(hand, 'weight-noted', { runId, weightMg: read() })
  }
  plant.controls.valve = 'closed'
  const purges = chance(hand, 0.8)
  if (purges) {
    plant.controls.machine = 'purge'
    pass(world, 120)
  }
  // Stays in the machine, in no cylinder: half of it is a guess, or it was not said.
  const keptKg = plant.machine.holdupKg
  hand.doubtKg += keptKg
  noteWeight(hand, 'run-ended', { runId, weightMg: read() })
  if (!purges && keptKg > 0.005 && chance(hand, 0.7))
    hand.write('rig-kept', { kitId: 'machine', massMg: Math.round(keptKg * KG * between(hand, 0.7, 1.3)) })
  plant.lostKg += keptKg
  plant.machine.holdupKg = 0
  letGo(world)
}

/** How the pull ended, as it is said: mostly as it is. */
export function sayEnd(hand: Hand): void {
  const { totalPa } = pressures(hand.world)
  const { parameters } = hand.world
  const { levelPa } = endLevel(parameters.refrigerant, parameters.system.chargeKg, 'appliance')
  const down = totalPa < levelPa + 10_000
  if (chance(hand, 0.5)) hand.write('pressure-noted', { point: 'low', pressurePa: gaugePa(hand) })
  if (chance(hand, 0.15)) return
  const truth: RecoveryEndKind = down ? 'emptied' : 'not-emptied'
  const said = chance(hand, 0.06) ? (down ? 'not-emptied' : 'emptied') : truth
  if (said === 'emptied' && !down) hand.untold.gas = true
  hand.write('recovery-ended', { how: said, ...(chance(hand, 0.7) && { levelPa }) })
}

/** What was so when something began: a time of the tape's own. */
export const since = ({ log }: Hand, at: number) => log.find((each) => each.at >= at) ?? log[0]!

/** Found gone, and said so, or not. */
export function foundGone(hand: Hand): void {
  if (inSystemKg(hand.world) > 0.1) return
  if (chance(hand, 0.6)) hand.write('pressure-noted', { point: 'low', pressurePa: gaugePa(hand) })
  if (chance(hand, 0.6)) hand.write('recovery-ended', { how: oneOf(hand, ['lost', 'elsewhere'] as const) })
}

export function search(hand: Hand): void {
  const { system } = hand.world.parameters
  const found = system.holeM > 0 && chance(hand, 0.8)
  hand.write('leak-checked', {
    method: oneOf(hand, ['detector', 'bubbles', 'nitrogen'] as const),
    found,
    text: '',
  })
  if (found && chance(hand, 0.8) && mayOpen(hand)) repair(hand)
}

const mayOpen = (hand: Hand) => inSystemKg(hand.world) < 0.08 * hand.world.parameters.system.chargeKg + 0.05

export function repair(hand: Hand): void {
  const { world } = hand
  openUp(hand)
  world.parameters.system.holeM = 0
  world.parameters.vacuum.leakPaS = 0
  hand.write('step-done', { step: 'repair-done' })
}

/** A joint, a drier, a part: with the gas out of it, as it should be. */
export function openUp(hand: Hand): void {
  if (!mayOpen(hand)) return
  open(hand.world)
  const told = !chance(hand, 0.1)
  if (!told) return void (hand.untold.opening = true)
  if (chance(hand, 0.5))
    hand.write('step-done', { step: oneOf(hand, ['repair-opened', 'repair-drier'] as const) })
  else
    hand.write('part-replaced', {
      part: oneOf(hand, ['drier', 'valve', 'compressor'] as const),
      number: '',
      text: '',
    })
}

export function nitrogen(hand: Hand): void {
  if (!mayOpen(hand)) return
  const { world } = hand
  const toPa = between(hand, 2e5, 25e5)
  fillTo(world, toPa)
  const how = hand.dice.even()
  if (how < 0.1) hand.untold.nitrogen = true
  else if (how < 0.6) hand.write('nitrogen-let-in', { pressurePa: gaugePa(hand) })
  else {
    const testId = idOf('test')
    const tempK = world.parameters.ambientK
    hand.write('pressure-test-started', { testId, part: 'whole', pressurePa: gaugePa(hand), tempK })
    pass(world, between(hand, 60, 900))
    hand.write('pressure-test-ended', { testId, pressurePa: gaugePa(hand), tempK })
  }
  if (chance(hand, 0.8)) ventNitrogen(world)
}

export function pump(hand: Hand): void {
  const { world } = hand
  if (!mayOpen(hand)) return
  ventNitrogen(world)
  Object.assign(world.plant.controls, { line: 'pump', pump: true, valve: 'vapour' })
  const toPa = between(hand, 20, 200)
  pass(world, 1_500, () => pressures(world).totalPa < toPa)
  hand.write('vacuum-noted', { pressurePa: vacuumPa(hand) })
  if (pressures(world).totalPa < 2_000) {
    hand.untold.nitrogen = false
    hand.untold.opening = false
  }
  world.plant.controls.pump = false
  world.plant.controls.valve = 'closed'
  if (chance(hand, 0.85)) hold(hand)
  letGo(world)
}

function hold(hand: Hand): void {
  const holdId = idOf('hold')
  hand.write('hold-started', { holdId, pressurePa: vacuumPa(hand) })
  const minutes = between(hand, 3, 20)
  for (let i = 0; i < 4; i++) {
    pass(hand.world, (minutes * 60) / 4)
    if (i < 3 && chance(hand, 0.6)) hand.write('vacuum-noted', { holdId, pressurePa: vacuumPa(hand) })
  }
  hand.write('hold-ended', { holdId, pressurePa: vacuumPa(hand) })
}

export function aim(hand: Hand): void {
  const kg = hand.world.parameters.system.chargeKg
  hand.write('target-set', { massMg: Math.round(kg * KG), toleranceMg: 30_000, basis: 'expected' })
}

/** Into it: all that is missing, a little, or too much. */
export function charge(hand: Hand, kg: number): void {
  const { world } = hand
  const { plant } = world
  const from: VesselId = world.vessels.B.cylinder.kg > 0.5 ? 'B' : 'A'
  if (!chance(hand, 0.1)) hand.write('cylinder-chosen', { cylinderId: from, use: 'charge', massMg: null })
  hangOn(world, from)
  const runId = idOf('charge')
  const { read, scale } = onScale(hand)
  hand.write('run-started', { runId, use: 'charge', cylinderId: from, weightMg: read(), ...scale })
  const before = inSystemKg(world)
  Object.assign(plant.controls, { line: 'cylinder', valve: 'liquid' })
  const inIt = () => inSystemKg(world) - before >= kg
  for (let i = 0; i < 3 && !inIt(); i++) {
    pass(world, 200, inIt)
    if (i < 2 && chance(hand, 0.5)) noteWeight(hand, 'weight-noted', { runId, weightMg: read() })
  }
  plant.controls.valve = 'closed'
  const hoseMg = Math.round(plant.hoseKg * KG * between(hand, 0.8, 1.2))
  hand.doubtKg += 0.25 * plant.hoseKg
  noteWeight(hand, 'run-ended', { runId, weightMg: read(), hoseMg })
  letGo(world)
}
