import { type FactName, KINDS_OF_KIT, type KitFacts, type KitKind } from '#core/kit'
import { type MeasureKind, type ReadersUnits, show, typed } from '~/base/ui/measure'

interface Base {
  label: string
  help?: string
}
/** How a fact is asked for, shown, and written in a file: once for all three. */
export type FactField = Base &
  (
    | { type: 'measure'; kind: MeasureKind; least?: number; most: number }
    | { type: 'number'; unit: string; least: number; most: number; whole?: boolean }
    | { type: 'yes' }
    | { type: 'choice'; options: Record<string, string> }
    | { type: 'text'; most: number; lines?: boolean }
    | { type: 'cylinder' }
  )

const T = 1e9

export const FACT_FIELDS: Record<FactName, FactField> = {
  capacityMg: {
    type: 'measure',
    kind: 'weight',
    most: 2 * T,
    label: 'Capacity',
    help: 'The most it may carry.',
  },
  divisionMg: {
    type: 'measure',
    kind: 'weight',
    most: 1e6,
    label: 'It counts in steps of',
    help: 'Such as 5 g or 1/4 oz. Its doubt follows from it.',
  },
  accuracyMg: {
    type: 'measure',
    kind: 'weight',
    most: 5e6,
    label: 'Stated accuracy (±)',
    help: 'From its papers. Left empty, two steps are reckoned with.',
  },
  fullScalePa: {
    type: 'measure',
    kind: 'pressure-difference',
    most: 1e8,
    label: 'Full scale',
    help: 'Its highest mark. Left empty, ± 0.2 bar (3 psi) is reckoned with.',
  },
  classPct: { type: 'number', unit: '%', least: 0.01, most: 20, label: 'Class (% of full scale)' },
  accuracyK: {
    type: 'measure',
    kind: 'difference',
    most: 20,
    label: 'Stated accuracy (±)',
    help: 'Left empty, ± 1 K is reckoned with.',
  },
  leastPa: { type: 'measure', kind: 'vacuum', most: 1.1e5, label: 'Reads from' },
  mostPa: { type: 'measure', kind: 'vacuum', most: 1.1e5, label: 'Reads to' },
  accuracyPct: {
    type: 'number',
    unit: '%',
    least: 0.1,
    most: 100,
    label: 'Stated accuracy (± % of the reading)',
    help: 'Left empty, ± 20 % is reckoned with.',
  },
  sitsAt: {
    type: 'choice',
    options: { system: 'At the system, away from the pump', pump: 'At the pump' },
    label: 'Where it usually sits',
    help: 'At the pump it reads lower than the system is.',
  },
  purityPct: {
    type: 'number',
    unit: '%',
    least: 50,
    most: 100,
    label: 'Purity limit (%)',
    help: '98 is usual.',
  },
  flammableOk: { type: 'yes', label: 'Rated for flammable refrigerants' },
  oilLess: { type: 'yes', label: 'Oil-less' },
  cutOutPa: {
    type: 'measure',
    kind: 'pressure',
    most: 2e7,
    label: 'Cuts out at',
    help: 'Its highest pressure.',
  },
  stopsAtPa: {
    type: 'measure',
    kind: 'pressure',
    most: 2e6,
    label: 'Stops by itself at',
    help: 'On its inlet.',
  },
  takesLiquid: { type: 'yes', label: 'Takes liquid well' },
  purgeWay: { type: 'text', most: 500, lines: true, label: 'How it purges itself' },
  shutDown: {
    type: 'text',
    most: 2000,
    lines: true,
    label: 'Shut-down order, one step a line',
    help: 'Makers differ: copy it from its manual. It stands in the job when you finish.',
  },
  holdUpMg: {
    type: 'measure',
    kind: 'weight',
    most: 5e6,
    label: 'Holds before it is purged',
    help: 'With its hoses; 30 to 350 g is usual.',
  },
  filterLifeMg: {
    type: 'measure',
    kind: 'weight',
    most: 10 * T,
    label: 'Filter-drier: good for',
    help: 'What may pass before it is changed.',
  },
  flowM3s: { type: 'measure', kind: 'flow', most: 1, label: 'Flow', help: 'Such as 6 cfm or 2.8 L/s.' },
  ultimatePa: { type: 'measure', kind: 'vacuum', most: 1.1e5, label: 'Ultimate vacuum' },
  oilHours: { type: 'number', unit: 'h', least: 1, most: 10_000, label: 'Hours between changes of its oil' },
  boreM: { type: 'measure', kind: 'bore', most: 0.2, label: 'Bore', help: 'Of a 1/4 in hose about 4.8 mm.' },
  lengthM: { type: 'measure', kind: 'length', most: 200, label: 'Length of each' },
  count: { type: 'number', unit: '', least: 1, most: 50, whole: true, label: 'How many' },
  method: {
    type: 'choice',
    options: {
      'heated-diode': 'Heated diode',
      infrared: 'Infrared',
      ultrasonic: 'Ultrasonic',
      other: 'Other',
    },
    label: 'How it works',
  },
  regulatorPa: {
    type: 'measure',
    kind: 'pressure',
    most: 3e7,
    label: 'Regulator lets through at most',
    help: 'Never without one; never oxygen or shop air.',
  },
  massMg: { type: 'measure', kind: 'weight', most: T, label: 'They weigh in all' },
  contents: { type: 'choice', options: { oil: 'Oil', dye: 'Dye' }, label: 'What is in it' },
  oilType: {
    type: 'text',
    most: 60,
    label: 'Type',
    help: 'POE, PAG, PVE, mineral, AB: each in its own bottle.',
  },
  viscosity: { type: 'number', unit: 'ISO VG', least: 1, most: 1000, label: 'Viscosity (ISO VG)' },
  dyed: { type: 'yes', label: 'Has dye in it already' },
  bottleMl: { type: 'measure', kind: 'volume', most: 1e5, label: 'The bottle holds' },
  tankId: { type: 'cylinder', label: 'Its tank in the rack', help: 'A cylinder of the kind “station”.' },
  checkDays: {
    type: 'number',
    unit: 'days',
    least: 1,
    most: 3650,
    whole: true,
    label: 'Checked every (days)',
    help: 'Left empty: what is usual for its kind.',
  },
}

/** The facts that are asked of a kind, each with its field. Which of them nothing is due for ask no days. */
export function factsOf(kind: KitKind): [FactName, FactField][] {
  return KINDS_OF_KIT[kind].facts.map((name) => [name, FACT_FIELDS[name]])
}

/** Facts as their form shows them. */
export function factsTyped(kind: KitKind, facts: KitFacts, reading: ReadersUnits): Record<string, string> {
  return Object.fromEntries(
    factsOf(kind).map(([name, field]) => {
      const value = facts[name]
      if (value === undefined) return [name, '']
      if (field.type === 'measure') return [name, typed(field.kind, value as number, reading)]
      if (field.type === 'number') return [name, String(value)]
      if (field.type === 'yes') return [name, value ? 'on' : '']
      return [name, String(value)]
    }),
  )
}

/** One fact to read. */
export function factWords(name: FactName, value: unknown, reading: ReadersUnits): string {
  const field = FACT_FIELDS[name]
  switch (field.type) {
    case 'measure':
      return show(field.kind, value as number, reading)
    case 'number':
      return `${String(value)} ${field.unit}`.trim()
    case 'yes':
      return value ? 'yes' : 'no'
    case 'choice':
      return field.options[value as string] ?? String(value)
    default:
      return String(value)
  }
}
