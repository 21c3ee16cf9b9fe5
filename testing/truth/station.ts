// A service station does it by itself: its reports become entries, as the server makes them. It stops, or is left alone, now and then.
import { type PlannedStep, type ProgrammeStep, type StationReadings, USUAL_STEPS } from '#core/programme'
import { foldTape, fromStation } from '#core/tape'
import { chance, type Hand, idOf, levelPa, MG_PER_KG, vacuumPa } from './hand'
import { hangOn, inSystemKg, letGo, pass, pressures, weighedMg } from './world'

const KIT_ID = 'station'

/** What goes on in the plant while a step runs. @returns what it reads at its end; undefined: it did not get there */
type Doing = (hand: Hand, step: PlannedStep) => StationReadings | undefined

const DOING: Partial<Record<ProgrammeStep, Doing>> = {
  recover(hand) {
    const { world } = hand
    const { plant } = world
    Object.assign(plant.controls, { line: 'machine', machine: 'run', valve: 'liquid', fan: true })
    Object.assign(plant.machine, { cutOut: false, stoppedItself: false })
    const down = () => pressures(world).totalPa < levelPa(hand) - 5_000
    pass(world, 1_800, down)
    plant.controls.valve = 'closed'
    plant.controls.machine = 'purge'
    pass(world, 120)
    hand.doubtKg += plant.machine.holdupKg
    plant.lostKg += plant.machine.holdupKg
    plant.machine.holdupKg = 0
    const reached = pressures(world).totalPa < levelPa(hand)
    letGo(world)
    return reached ? { ...weight(hand), lowPa: gauge(hand) } : undefined
  },
  'oil-out': (hand) => ({ drainMl: Math.round(20 * hand.dice.even()) }),
  vacuum(hand, { forS = 0 }) {
    const { world } = hand
    Object.assign(world.plant.controls, { line: 'pump', pump: true, valve: 'vapour' })
    pass(world, forS)
    Object.assign(world.plant.controls, { pump: false, valve: 'closed' })
    if (pressures(world).totalPa < 2_000) Object.assign(hand.untold, { nitrogen: false, opening: false })
    return { vacuumPa: vacuumPa(hand) }
  },
  hold(hand, { forS = 0 }) {
    const curve: [number, number][] = []
    for (let i = 0; i <= 20; i++) {
      if (i > 0) pass(hand.world, forS / 20)
      curve.push([(i * forS) / 20, vacuumPa(hand)])
    }
    return { vacuumPa: vacuumPa(hand), curve }
  },
  'oil-in': () => ({ oilMl: 10 }),
  charge(hand, { massMg = 0 }) {
    const { world } = hand
    const before = inSystemKg(world)
    Object.assign(world.plant.controls, { line: 'cylinder', valve: 'liquid' })
    pass(world, 900, () => inSystemKg(world) - before >= massMg / MG_PER_KG)
    const short = inSystemKg(world) - before < massMg / MG_PER_KG
    // What its hoses hold is drawn in.
    world.plant.system.vapourKg += world.plant.hoseKg
    world.plant.hoseKg = 0
    letGo(world)
    return short ? undefined : weight(hand)
  },
  clear: (hand) => weight(hand),
}

const weight = ({ world }: Hand) => ({ weightKg: weighedMg(world, world.scales[0]) / MG_PER_KG })
const gauge = ({ world }: Hand) => pressures(world).totalPa - world.parameters.atmospherePa

/** All of it, or what somebody picks. */
export function runStation(hand: Hand, fillKg: number): void {
  const { world } = hand
  hangOn(world, 'B')
  const gasIn = inSystemKg(world) > 0.05
  const wanted: ProgrammeStep[] = [
    ...(gasIn ? (['recover', 'oil-out'] as const) : []),
    ...(chance(hand, 0.85) ? (['vacuum', 'hold'] as const) : []),
    'oil-in',
    ...(chance(hand, 0.85) ? (['charge', 'clear'] as const) : []),
  ]
  const steps = wanted.map((step): PlannedStep => ({
    step,
    ...USUAL_STEPS[step],
    ...(step === 'charge' && { massMg: Math.round(fillKg * MG_PER_KG) }),
  }))
  const programmeId = idOf('programme')
  hand.write('programme-begun', { programmeId, kitId: KIT_ID, deviceId: 'device', steps })
  const programme = { programmeId, steps }
  const [scale] = world.scales
  const station = {
    kitId: KIT_ID,
    label: 'Station',
    tankId: world.vessels.B.cylinderId,
    divisionMg: Math.round(scale.divisionKg * MG_PER_KG),
    accuracyMg: Math.round(scale.accuracyKg * MG_PER_KG),
    atmospherePa: world.parameters.atmospherePa,
    idFor: (name: string) => `${programmeId} ${name}`,
  }
  let nr = 0
  const reports = (report: Omit<Parameters<typeof fromStation>[0], 'nr' | 'at'>) => {
    const said = fromStation(
      { nr: ++nr, at: world.now, ...report },
      programme,
      foldTape(hand.entries),
      station,
    )
    for (const { kind, body } of said) hand.write(kind, body as never)
  }
  const at = (): StationReadings => ({ ...weight(hand), vacuumPa: vacuumPa(hand) })
  for (const step of steps) {
    const kind = step.step
    reports({ kind: 'began', step: kind, readings: at() })
    const readings = DOING[kind]!(hand, step)
    if (!readings || chance(hand, 0.05)) {
      reports({ kind: 'ended', how: 'stopped', step: kind, readings: { ...at(), ...readings } })
      return
    }
    reports({ kind: 'done', step: kind, readings: { ...at(), ...readings } })
    if (kind !== 'hold') continue
    reports({ kind: 'asks', ask: 'look-at-hold', step: 'hold', readings })
    const { askId } = foldTape(hand.entries).programmes.at(-1)!.asks!
    hand.write('hand-given', { programmeId, askId, answer: 'done' })
  }
  reports({ kind: 'ended', how: 'finished', readings: at() })
}
