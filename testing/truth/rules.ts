// What must hold of all that Keg says, whatever was done: held against a plant in which every gram is known.
import type { Entry, EntryKind, OpenPoint } from '#core/tape'
import type { Said, Shelf } from './asked'
import { asked, referenceOf } from './asked'
import { type Hand, since } from './hand'
import { inSystemKg, pressures, reachableKg } from './world'

/** What one rule found at one entry. */
export interface Held {
  /** There was something to hold against it. */
  exercised: boolean
  breach?: string
}

export interface Moment {
  hand: Hand
  shelf: Shelf
  said: Said
  /** The same at the entry before; undefined at the first. */
  before: Said | undefined
  entry: Entry
}

type Rule = (moment: Moment) => Held

const NOTHING: Held = { exercised: false }
const KG = 1e6
/** What became of less than this nobody asks, mg. */
const SMALL_MG = 20_000

const held = (breach: string | undefined | false): Held =>
  breach ? { exercised: true, breach } : { exercised: true }

/** A figure on the tape is wrong, or gas moved that nobody noted: what is said of masses is excused. */
const excused = ({ mistyped, untold }: Hand) => mistyped > 0 || untold.gas

/** What stays in oil and corners of a circuit that is down to its level, kg. */
const restKg = ({ world }: Hand) => 0.08 * world.parameters.system.chargeKg + 0.05

/** What has happened to what is in it since it was empty last, or since the job began. */
function meanwhile(hand: Hand, { state }: Said) {
  const began = since(hand, state.episodes.at(-1)!.beganAt)
  const rest = state.episodes.at(-1)!.began === 'empty' ? began.inItKg : 0
  return {
    leaked: hand.world.leakedKg - began.leakedKg,
    foundKg: began.inItKg,
    doubtKg: rest + hand.doubtKg - began.doubtKg,
  }
}

export const RULES: Record<string, Rule> = {
  /** What is said to be in it contains what is in it, or it is said that nobody knows. */
  '1 what is in it': ({ hand, said }) => {
    if (excused(hand) || said.running) return NOTHING
    const truth = inSystemKg(hand.world)
    const { now } = said
    const { leaked, foundKg, doubtKg } = meanwhile(hand, said)
    if (now.kind === 'as-found') return NOTHING
    if (now.kind === 'empty') return held(truth > restKg(hand) && `empty is said of ${truth.toFixed(3)} kg`)
    const room = 0.01 + doubtKg + (3 * now.sigmaMg) / KG
    const mass = now.massMg / KG
    if (now.kind === 'weighed') {
      const off = truth + leaked - mass
      return held(
        Math.abs(off) > room &&
          `${mass.toFixed(3)} kg is said of ${truth.toFixed(3)} (room ${room.toFixed(3)})`,
      )
    }
    const change = truth + leaked - foundKg
    const says = now.kind === 'added' ? mass : -mass
    return held(
      Math.abs(change - says) > room && `a change of ${says.toFixed(3)} kg is said of ${change.toFixed(3)}`,
    )
  },

  /** Tape and books say the same, or an open point says why not. */
  '2 tape and books': ({ said }) => {
    if (said.running || said.points.includes('gas-unaccounted')) return NOTHING
    const { now, booksMg } = said
    if (now.kind !== 'empty' && now.kind !== 'weighed') return NOTHING
    const tapeMg = now.kind === 'empty' ? 0 : now.massMg
    return held(
      Math.abs(tapeMg - booksMg) > SMALL_MG && `the tape has ${tapeMg} mg in it, the books ${booksMg}`,
    )
  },

  /** No next step vents, draws in air, overfills or charges onto nitrogen. */
  '3 next step': ({ hand, said }) => {
    const { world, untold } = hand
    if (excused(hand)) return NOTHING
    const { airPa, totalPa } = pressures(world)
    const truth = inSystemKg(world)
    const { next } = said
    if (
      ['set-target', 'choose-charge-cylinder', 'start-charge', 'open-valves'].includes(next) &&
      !untold.nitrogen &&
      !untold.opening
    )
      return held(airPa > 3_000 && `${next} onto ${(airPa / 1e5).toFixed(2)} bar of nitrogen or air`)
    if (next === 'hold-vacuum' && !untold.nitrogen && !untold.opening)
      return held(totalPa > 20_000 && `a hold at ${(totalPa / 1e5).toFixed(2)} bar`)
    if (['repair', 'check-leaks', 'evacuate', 'hold-vacuum'].includes(next) && !untold.valves) {
      const open = reachableKg(world)
      return held(open > restKg(hand) && `${next} with ${open.toFixed(3)} kg in it`)
    }
    if (next === 'change-gas') return held(truth > restKg(hand) && `another gas onto ${truth.toFixed(3)} kg`)
    if (said.toGoMg !== undefined && said.state.target && said.now.kind === 'weighed' && said.toGoMg > 0) {
      const { leaked, doubtKg } = meanwhile(hand, said)
      const over = truth + leaked - said.state.target.massMg / KG
      const room = doubtKg + 0.04 + (3 * said.now.sigmaMg) / KG
      return held(
        over > room && `${(said.toGoMg / KG).toFixed(3)} kg to go, and it is ${over.toFixed(3)} over`,
      )
    }
    return NOTHING
  },

  /** No open point goes but by what settles it. */
  '4 open points': ({ hand, said, before, entry }) => {
    if (hand.mistyped > 0) return NOTHING
    const gone = before?.points.filter((each) => !said.points.includes(each)) ?? []
    if (gone.length === 0) return NOTHING
    const wrong = gone.filter((point) => !settles(point, entry, said, before!))
    return held(wrong.length > 0 && `${wrong.join(', ')} went by ${entry.kind} ${JSON.stringify(entry.body)}`)
  },

  /** Nothing is called good that is out by more than was said. */
  '5 good is good': ({ hand, said, shelf }) => {
    if (excused(hand) || said.running) return NOTHING
    const truth = inSystemKg(hand.world)
    const { leaked, foundKg, doubtKg } = meanwhile(hand, said)
    const target = said.state.target
    if (said.charged?.outcome === 'good' && target && said.now.kind === 'weighed') {
      const off = truth + leaked - target.massMg / KG
      const room = doubtKg + (target.toleranceMg + 3 * said.now.sigmaMg) / KG + 0.01
      return held(Math.abs(off) > room && `on target is said, ${off.toFixed(3)} kg off`)
    }
    if (said.recovery?.outcome === 'good' && said.state.episodes.length === 1) {
      const reference = referenceOf(shelf)
      const due = (reference.books ?? reference.plate)?.massMg
      if (due === undefined) return NOTHING
      const short = due / KG - foundKg
      return held(
        Math.abs(short) > 0.1 * (due / KG) + restKg(hand) &&
          `as expected is said of ${foundKg.toFixed(3)} of ${(due / KG).toFixed(3)} kg`,
      )
    }
    return NOTHING
  },

  /** A worse instrument, or a plate that nobody can read, makes no verdict surer. */
  '6 never surer': ({ hand, said, shelf, entry }) => {
    if (hand.mistyped > 0) return NOTHING
    if (entry.kind !== 'run-ended' && entry.kind !== 'recovery-ended') return NOTHING
    const worse = hand.entries.map((each) =>
      each.kind === 'run-started'
        ? { ...each, body: { ...each.body, divisionMg: 100_000, accuracyMg: 300_000 } }
        : each,
    )
    const coarse = asked({ entries: worse }, shelf)
    const blind = asked(hand, { ...shelf, plateMg: null, whole: false })
    const surer = (['recovery', 'charged'] as const).filter(
      (which) =>
        unsure(said[which]) && (!unsure(coarse[which]) || (which === 'recovery' && !unsure(blind[which]))),
    )
    return held(surer.length > 0 && `${surer.join(', ')}: surer with less`)
  },

  /** Every judge that is asked the same gives the same answer. */
  '7 one judge': ({ said }) => {
    const contradictions = CONTRADICTIONS.filter(([, isSo]) => isSo(said)).map(([what]) => what)
    return held(contradictions.length > 0 && contradictions.join('; '))
  },
}

const unsure = (verdict: Said['recovery']) => verdict === undefined || verdict.outcome === 'open'

/** What cannot both be said. */
const CONTRADICTIONS: [what: string, isSo: (said: Said) => boolean][] = [
  [
    'the hold passed, and is asked for',
    ({ hold, next }) => hold === 'passed' && (next === 'hold-vacuum' || next === 'pump-on-or-find-leak'),
  ],
  [
    'no hold passed, and it is evacuated',
    ({ hold, progress }) => hold !== 'passed' && progress.evacuate === 'done',
  ],
  [
    'the hold passed, and is an open point',
    ({ hold, points }) =>
      hold === 'passed' && points.some((each) => each.includes('hold') && each !== 'hold-running'),
  ],
  [
    'a charge is next, and no hold passed',
    ({ hold, next }) =>
      hold !== 'passed' && ['set-target', 'choose-charge-cylinder', 'start-charge'].includes(next),
  ],
  [
    'a leak is known, and is no open point',
    ({ leak, points, state }) =>
      leak !== points.includes('leak-found') && !state.steps.some(({ step }) => step === 'unit-taken-away'),
  ],
  ['a leak is known, and it is tight', ({ leak, progress }) => leak && progress['leak-test'] === 'done'],
  [
    'on target, and short or over',
    ({ charged, points }) => charged?.outcome === 'good' && points.some((each) => each.startsWith('charge-')),
  ],
  ['on target, and go on', ({ charged, next }) => charged?.outcome === 'good' && next === 'go-on-charging'],
  [
    'so much to go, and nobody knows what is in it',
    ({ toGoMg, now }) => toGoMg !== undefined && now.kind !== 'weighed' && now.kind !== 'empty',
  ],
  [
    'to go is not target less what is in it',
    ({ toGoMg, now, state }) =>
      toGoMg !== undefined && now.kind === 'weighed' && toGoMg !== state.target!.massMg - now.massMg,
  ],
  [
    'nothing is open, and it is not finished',
    ({ next, points, state }) =>
      points.length === 0 &&
      state.status === 'open' &&
      ['pull-again', 'end-recovery', 'account-for-gas', 'go-on-charging', 'repair'].includes(next),
  ],
  [
    'charged, and open',
    ({ progress, points }) => progress.charge === 'done' && points.includes('charge-short'),
  ],
  [
    'charge all of it, and go on',
    ({ progress, next }) => progress.charge === 'done' && next === 'go-on-charging',
  ],
]

/** What may settle each of them; a correction may settle any. */
const SETTLED_BY: Record<OpenPoint, EntryKind[]> = {
  'programme-running': ['programme-ended'],
  'transfer-running': ['run-ended'],
  'hold-running': [
    'hold-ended',
    'hold-curve',
    'hold-started',
    'vacuum-noted',
    'nitrogen-let-in',
    'pressure-test-started',
  ],
  'recovery-not-ended': ['recovery-ended', 'run-started', 'vacuum-noted', 'hold-started', 'hold-ended'],
  'gas-unaccounted': ['recovery-ended'],
  'gas-not-judged': ['gas-judged'],
  'recovered-short': [
    'leak-checked',
    'pressure-test-ended',
    'run-started',
    'weight-noted',
    'run-ended',
    'recovery-ended',
    'rig-kept',
  ],
  'leak-found': ['step-done', 'leak-checked'],
  'no-leak-test': ['leak-checked', 'pressure-test-ended'],
  'no-hold': ['hold-started', 'hold-ended'],
  'hold-cannot-tell': ['hold-started', 'hold-ended', 'verdict-overruled'],
  'hold-leaking': ['hold-started', 'hold-ended', 'verdict-overruled'],
  'hold-failed': ['hold-started', 'hold-ended', 'verdict-overruled'],
  'oil-due': ['oil-noted', 'drain-read'],
  'oil-over': ['oil-noted', 'drain-read', 'part-replaced'],
  'oil-wrong': ['drive-noted', 'job-described', 'gas-changed'],
  'charge-short': ['rig-kept', 'run-started', 'run-ended', 'weight-noted', 'target-set'],
  'charge-cannot-tell': ['rig-kept', 'run-started', 'run-ended', 'weight-noted', 'target-set'],
  'charge-over': ['rig-kept', 'run-started', 'run-ended', 'weight-noted', 'target-set'],
  'target-moved': ['target-set', 'rig-kept', 'run-started', 'run-ended', 'weight-noted', 'part-replaced'],
  'topped-up': ['leak-checked', 'pressure-test-ended', 'place-searched'],
  'retrofit-open': ['gas-changed', 'step-done'],
  'no-charge': ['run-started', 'run-ended'],
  'readings-missing': ['pressure-noted', 'temperature-noted'],
  'readings-off': ['pressure-noted', 'temperature-noted'],
  caps: ['step-done'],
  'parts-back': ['step-done', 'put-back', 'left-off'],
  label: ['step-done'],
}
/** What is asked of a charge goes with it: once it is out again, there is nothing to ask. */
const GOES_WITH_THE_CHARGE: OpenPoint[] = [
  'no-leak-test',
  'no-hold',
  'hold-cannot-tell',
  'hold-leaking',
  'hold-failed',
  'charge-short',
  'charge-over',
  'charge-cannot-tell',
  'target-moved',
  'topped-up',
  'retrofit-open',
  'readings-missing',
  'label',
]

const was = ({ state }: Said) => state.episodes.filter((each) => each.emptiedAt !== undefined).length

/** Of one thing there is one at a time: one takes the other's place. */
const IN_PLACE: OpenPoint[][] = [
  ['no-hold', 'hold-running', 'hold-cannot-tell', 'hold-leaking', 'hold-failed'],
  ['charge-short', 'charge-over', 'charge-cannot-tell', 'no-charge', 'topped-up', 'gas-unaccounted'],
]

function settles(point: OpenPoint, entry: Entry, said: Said, before: Said): boolean {
  if (entry.kind === 'correction' || SETTLED_BY[point].includes(entry.kind)) return true
  if (IN_PLACE.some((each) => each.includes(point) && said.points.some((other) => each.includes(other))))
    return true
  // More came out of it than had gone in: it was not empty, and no circuit was open.
  const disproved = said.state.episodes.length < before.state.episodes.length || was(before) !== was(said)
  if (disproved) return true
  const charges = (each: Said) => each.state.episodes.at(-1)!.charges
  const out = charges(said) === 0 || said.state.episodes.at(-1)!.emptiedAt !== undefined
  if (GOES_WITH_THE_CHARGE.includes(point) && out) return true
  return charges(before) === 0
}
