import { type Channel, channelsOf, type Point } from '#core/samples'
import { holdRule, type JobState, openTransfer } from '#core/tape'
import {
  MG_PER_KG,
  MG_PER_LB,
  PA_PER_BAR,
  PA_PER_MICRON,
  PA_PER_PSI,
  STANDARD_ATMOSPHERE_PA,
  ZERO_CELSIUS_K,
} from '#core/units'
import type { ReadersUnits } from '~/base/ui/measure'

export type BandName = 'weight' | 'pressure' | 'temperature' | 'vacuum'
export type Ink = 'copper' | 'cold' | 'warm' | 'ink' | 'quiet'

/** A line over time: drawn where it was heard, as points where it was noted. */
export interface Line {
  name: string
  ink: Ink
  points: (Point | null)[]
  /** Noted by hand, or promoted: points that stand out. */
  noted: boolean
}

export interface Mark {
  name: string
  value: number
  /** A limit is red, a target is not. */
  limit: boolean
}

export interface Band {
  name: BandName
  unit: string
  log: boolean
  lines: Line[]
  marks: Mark[]
}

export interface Pin {
  at: number
  words: string
}

export interface Strip {
  bands: Band[]
  pins: Pin[]
}

/** What an instrument has said, by its channel. */
export interface Heard {
  channel: Channel
  name: string
  points: (Point | null)[]
}

export interface StripLimits {
  /** Gross weight that the cylinder on the scale may not pass, mg. */
  grossLimitMg?: number | undefined
  /** What the scale shows when the charge is in, mg. */
  stopMg?: number | undefined
  /** Down to here a running recovery must go, absolute Pa. */
  levelPa?: number | undefined
  /** It leaks: at zero on the gauge a recovery must stop. */
  stopsAtZero?: boolean
}

const INKS: Record<string, Ink> = {
  low: 'cold',
  high: 'warm',
  suction: 'cold',
  liquid: 'warm',
  cylinder: 'copper',
  'cylinder-pressure': 'copper',
  vent: 'ink',
  ambient: 'quiet',
  vacuum: 'cold',
}
/** A log axis has no nothing. */
const LEAST_VACUUM = 0.1

/** The whole record on one time axis: everything heard, everything noted, limits and targets. */
export function stripOf(
  state: Pick<
    JobState,
    'transfers' | 'pressureNotes' | 'temperatureNotes' | 'vacuum' | 'lines' | 'holds' | 'vacuumPlan'
  >,
  heard: readonly Heard[],
  limits: StripLimits,
  { units, atmospherePa = STANDARD_ATMOSPHERE_PA }: ReadersUnits,
  wordsOf: (line: JobState['lines'][number]) => string,
): Strip {
  const rule = holdRule(state)
  const kg = units.weight === 'kg'
  const bar = units.pressure === 'bar'
  const mg = (value: number) => value / (kg ? MG_PER_KG : MG_PER_LB)
  const gauge = (pa: number) => pa / (bar ? PA_PER_BAR : PA_PER_PSI)
  const warmth = (tempK: number) =>
    units.temperature === 'F' ? ((tempK - ZERO_CELSIUS_K) * 9) / 5 + 32 : tempK - ZERO_CELSIUS_K
  const vacuum = (pa: number) => Math.max(LEAST_VACUUM, units.vacuum === 'micron' ? pa / PA_PER_MICRON : pa)
  const spoken = (channels: readonly Channel[], turn: (value: number) => number): Line[] =>
    heard
      .filter((each) => channels.includes(each.channel) && each.points.length > 0)
      .map(({ channel, name, points }) => ({
        name,
        ink: INKS[channel] ?? 'copper',
        points: points.map((point): Point | null => point && [point[0], turn(point[1])]),
        noted: false,
      }))
  const noted = (name: string, ink: Ink, points: (Point | null)[]): Line[] =>
    points.length > 0 ? [{ name, ink, points, noted: true }] : []

  const bands: Band[] = [
    {
      name: 'weight',
      unit: kg ? 'kg' : 'lb',
      log: false,
      lines: [
        ...spoken(['weight'], (value) => mg(value * MG_PER_KG)),
        ...state.transfers.flatMap((transfer) =>
          noted(
            transfer.use === 'recover' ? 'noted, recovering' : 'noted, charging',
            'copper',
            // Another scale reads from another zero: no line runs from one to the other.
            transfer.weighings.flatMap((each, i, all): (Point | null)[] => [
              ...(i > 0 && all[i - 1]!.segment !== each.segment ? [null] : []),
              [each.at, mg(each.weightMg)],
            ]),
          ),
        ),
      ],
      marks: openTransfer(state as JobState)
        ? [
            ...(limits.grossLimitMg === undefined
              ? []
              : [{ name: 'never past', value: mg(limits.grossLimitMg), limit: true }]),
            ...(limits.stopMg === undefined
              ? []
              : [{ name: 'close the valve', value: mg(limits.stopMg), limit: false }]),
          ]
        : [],
    },
    {
      name: 'pressure',
      unit: bar ? 'bar g' : 'psig',
      log: false,
      lines: [
        ...spoken(channelsOf('gauge-pressure'), gauge),
        ...(['low', 'high', 'cylinder', 'test'] as const).flatMap((point) =>
          noted(
            `noted, ${point === 'low' ? 'low side' : point === 'high' ? 'high side' : point}`,
            INKS[point] ?? 'ink',
            state.pressureNotes
              .filter((each) => each.point === point)
              .map((each): Point => [each.at, gauge(each.value - (each.atmospherePa ?? atmospherePa))]),
          ),
        ),
      ],
      marks: [
        ...(limits.levelPa === undefined || limits.stopsAtZero
          ? []
          : [{ name: 'down to here', value: gauge(limits.levelPa - atmospherePa), limit: false }]),
        ...(limits.stopsAtZero ? [{ name: 'stop: it leaks', value: 0, limit: true }] : []),
      ],
    },
    {
      name: 'temperature',
      unit: units.temperature === 'F' ? '°F' : '°C',
      log: false,
      lines: [
        ...spoken(channelsOf('temperature'), warmth),
        ...(['suction', 'liquid', 'cylinder', 'vent', 'ambient'] as const).flatMap((point) =>
          noted(
            `noted, ${point}`,
            INKS[point] ?? 'ink',
            state.temperatureNotes
              .filter((each) => each.point === point)
              .map((each): Point => [each.at, warmth(each.value)]),
          ),
        ),
      ],
      marks: [],
    },
    {
      name: 'vacuum',
      unit: units.vacuum,
      log: true,
      lines: [
        ...spoken(['vacuum'], vacuum),
        ...noted(
          'noted, vacuum',
          'cold',
          state.vacuum.map((each): Point => [each.at, vacuum(each.value)]),
        ),
      ],
      // A manifold gauge shows neither.
      marks:
        rule.manifoldRisePa !== undefined
          ? []
          : [
              { name: 'target', value: vacuum(rule.targetPa), limit: false },
              { name: 'limit of the hold', value: vacuum(rule.limitPa), limit: true },
            ],
    },
  ]
  return {
    bands: bands.filter(({ lines }) => lines.length > 0),
    pins: state.lines.filter((line) => !line.struck).map((line) => ({ at: line.time, words: wordsOf(line) })),
  }
}
