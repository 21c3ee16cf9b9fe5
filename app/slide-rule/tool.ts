import { OutOfRangeError } from '#core/refrigerants'
import type { Cylinder } from '#core/cylinders'
import type { ReadersUnits } from '~/base/ui/measure'
import type { Inputs, Values } from './fields'
import { atmosphereOf, KINDS, type KindName } from './kinds'
import type { Outcome } from './outcome'

/** What a tool may look at beside its inputs. */
export interface Surroundings {
  reading: ReadersUnits
  /** `2026-11-25` where the shop is. */
  today: string
  /** The shop's cylinders that may take this gas; undefined where they may not be read. */
  cylinders?: Cylinder[]
  fillMarginPct: number
}

export interface Tool<I extends Inputs = Inputs> {
  /** Its name in addresses and JSON. */
  name: string
  title: string
  /** What a technician asks. */
  question: string
  inputs: I
  /** Inputs that give a result, as typed. */
  example: Record<string, string>
  /** Looks at the shop's cylinders. */
  usesCylinders?: boolean
  work: (values: Values<I>, surroundings: Surroundings) => Outcome
}

/** Checks a tool's types against its inputs. */
export function tool<I extends Inputs>(definition: Tool<I>): Tool {
  return definition as unknown as Tool
}

/** These inputs have no result: a sentence on each field. */
export class Refusal extends Error {
  override name = 'Refusal'
  constructor(readonly errors: Record<string, string>) {
    super(Object.values(errors).join(' '))
  }
}

/** Looks something up; beyond a table the sentence stands on the field that asked for it. */
export function onField<T>(field: string, look: () => T): T {
  try {
    return look()
  } catch (error) {
    if (error instanceof OutOfRangeError) throw new Refusal({ [field]: error.message })
    throw error
  }
}

/** Writes SI numbers in the reader's units. */
export function sayIn(reading: ReadersUnits) {
  const say = (kind: KindName, value: number): string => KINDS[kind].show(value, reading)
  return Object.assign(say, {
    range: (kind: KindName, least: number, most: number) =>
      Number.isFinite(most) ? `${say(kind, least)} to ${say(kind, most)}` : `${say(kind, least)} or more`,
    /** The plain number and its unit, for charts. */
    plain: (kind: KindName, value: number): number => {
      const unit = chartUnit(kind, reading)
      return unit.variant.fromSi(value, atmosphereOf(reading))
    },
    unit: (kind: KindName): string => chartUnit(kind, reading).words,
  })
}

const CHART_UNITS: Partial<Record<KindName, [metric: string, us: string]>> = {
  temperature: ['C', 'F'],
  pressure: ['bar_g', 'psi_g'],
  duration: ['min', 'min'],
}
const UNIT_WORDS: Record<string, string> = { C: '°C', F: '°F', bar_g: 'bar g', psi_g: 'psig', min: 'min' }

function chartUnit(kind: KindName, { units }: ReadersUnits) {
  const [metric, us] = CHART_UNITS[kind] ?? ['', '']
  const american = kind === 'temperature' ? units.temperature === 'F' : units.pressure === 'psi'
  const suffix = american ? us : metric
  const variant = KINDS[kind].variants.find((v) => v.suffix === suffix)
  if (!variant) throw new Error(`${kind} has no unit for charts`)
  return { variant, words: UNIT_WORDS[suffix]! }
}

export const LOCAL_RULES = 'Local codes, the maker’s manual and licensed practice come first.'
export const TEXT_IN_FORCE = 'Check the text in force where you work.'
