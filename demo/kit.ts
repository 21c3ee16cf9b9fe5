import { addDays } from 'date-fns'
import type { ActCode, KitFacts, KitKind, KitState } from '#core/kit'
import { PA_PER_BAR, PA_PER_MICRON, STANDARD_ATMOSPHERE_PA } from '#core/units'
import { type ActBody, addKit, type ShopTx, writeAct } from '#db'
import { idFor } from './ids'

const KG = 1_000_000
const G = 1_000
const bar = (gauge: number) => Math.round(gauge * PA_PER_BAR + STANDARD_ATMOSPHERE_PA)

interface DemoKit {
  kind: KitKind
  label: string
  keepsAt: string
  facts: KitFacts
  state?: KitState
  acts?: { what: ActCode; daysAgo: number; passed?: boolean; body?: ActBody }[]
}

const scaleCheck = (daysAgo: number, readG = 10_000) => ({
  what: 'scale-check' as const,
  daysAgo,
  passed: Math.abs(readG - 10_000) <= 12.5,
  body: { known: 10 * KG, read: readG * G },
})
const done = (what: ActCode, daysAgo: number, text?: string, passed?: boolean) => ({
  what,
  daysAgo,
  ...(passed === undefined ? {} : { passed }),
  body: text ? { text } : {},
})

/** Two vans and the shop: what is in order, what is due, and one scale that failed. */
export const KIT: DemoKit[] = [
  {
    kind: 'scale',
    label: 'Scale 1',
    keepsAt: 'Shop',
    facts: { capacityMg: 150 * KG, divisionMg: 5 * G },
    acts: [scaleCheck(200, 10_005), scaleCheck(20, 10_060)],
  },
  {
    kind: 'scale',
    label: 'Scale 2',
    keepsAt: 'Van 1',
    facts: { capacityMg: 100 * KG, divisionMg: 5 * G, accuracyMg: 10 * G },
    acts: [scaleCheck(380), scaleCheck(60, 10_005), scaleCheck(12, 9_995)],
  },
  {
    kind: 'scale',
    label: 'Scale 3',
    keepsAt: 'Van 2',
    facts: { capacityMg: 100 * KG, divisionMg: 7_087 },
    acts: [scaleCheck(34)],
  },
  {
    kind: 'gauge',
    label: 'Gauges A',
    keepsAt: 'Van 1',
    facts: { fullScalePa: 55e5, classPct: 0.5 },
    acts: [
      {
        what: 'zero-check',
        daysAgo: 9,
        passed: true,
        body: { known: STANDARD_ATMOSPHERE_PA, read: STANDARD_ATMOSPHERE_PA + 5_000 },
      },
    ],
  },
  {
    kind: 'gauge',
    label: 'Gauges B',
    keepsAt: 'Van 2',
    facts: { fullScalePa: 35e5, classPct: 1.6 },
    acts: [
      {
        what: 'zero-check',
        daysAgo: 25,
        passed: true,
        body: { known: STANDARD_ATMOSPHERE_PA, read: STANDARD_ATMOSPHERE_PA },
      },
    ],
  },
  {
    kind: 'thermometer',
    label: 'Clamp 1',
    keepsAt: 'Van 1',
    facts: { accuracyK: 0.5 },
    acts: [{ what: 'temperature-check', daysAgo: 70, passed: true, body: { known: 273.15, read: 273.35 } }],
  },
  {
    kind: 'vacuum-gauge',
    label: 'Micron 1',
    keepsAt: 'Van 1',
    facts: { leastPa: 0.5, mostPa: 2_600, accuracyPct: 10, sitsAt: 'system' },
    acts: [
      {
        what: 'vacuum-check',
        daysAgo: 100,
        passed: true,
        body: { known: 60 * PA_PER_MICRON, read: 64 * PA_PER_MICRON },
      },
    ],
  },
  {
    kind: 'machine',
    label: 'Machine 1',
    keepsAt: 'Van 1',
    facts: {
      flammableOk: true,
      oilLess: true,
      takesLiquid: true,
      cutOutPa: bar(38),
      holdUpMg: 120 * G,
      filterLifeMg: 40 * KG,
      purgeWay: 'Knob to purge, runs itself down in a minute or two.',
      shutDown:
        'Inlet valve of the machine shut\nRun until the low side stands in a vacuum\nKnob to purge, wait until it falls silent\nVapour valve of the cylinder shut\nSwitch off, then hoses off',
    },
    acts: [done('filter-fitted', 395, 'Fresh one with the year')],
  },
  {
    kind: 'machine',
    label: 'Machine 2',
    keepsAt: 'Van 2',
    facts: {
      flammableOk: true,
      oilLess: true,
      cutOutPa: bar(38),
      holdUpMg: 90 * G,
      filterLifeMg: 100 * KG,
      shutDown: 'Cylinder valve shut\nInlet shut\nSwitch off\nPurge by the manual',
    },
    acts: [done('filter-fitted', 300)],
  },
  {
    kind: 'pump',
    label: 'Pump 1',
    keepsAt: 'Van 1',
    facts: { flowM3s: 2.83e-3, ultimatePa: 20 * PA_PER_MICRON, oilHours: 20 },
    acts: [done('oil-changed', 40), { what: 'hours-run', daysAgo: 12, body: { hours: 9 } }],
  },
  {
    kind: 'hoses',
    label: 'Blue set',
    keepsAt: 'Van 1',
    facts: { boreM: 8e-3, lengthM: 1.5, count: 3 },
    acts: [done('seals-looked', 30, undefined, true)],
  },
  {
    kind: 'core-tool',
    label: 'Core tools',
    keepsAt: 'Van 1',
    facts: {},
    acts: [done('seals-looked', 30, undefined, true)],
  },
  {
    kind: 'detector',
    label: 'Detector 1',
    keepsAt: 'Van 1',
    facts: { method: 'heated-diode' },
    acts: [done('calibrated', 120, 'Reference leak, sheet 114', true)],
  },
  {
    kind: 'identifier',
    label: 'Identifier',
    keepsAt: 'Shop',
    facts: { purityPct: 98 },
    acts: [done('calibrated', 220, 'Reference gas', true)],
  },
  {
    kind: 'nitrogen',
    label: 'Nitrogen 1',
    keepsAt: 'Van 1',
    facts: { regulatorPa: bar(40) },
    acts: [done('calibrated', 310, 'Regulator proved', true)],
  },
  {
    kind: 'weights',
    label: 'Check weights',
    keepsAt: 'Shop',
    facts: { massMg: 10 * KG },
    acts: [done('calibrated', 250, 'Harbour weigh office, sheet 9', true)],
  },
  {
    kind: 'bottle',
    label: 'POE 32',
    keepsAt: 'Van 1',
    facts: { contents: 'oil', oilType: 'POE', viscosity: 32, bottleMl: 1_000 },
    acts: [done('bottle-opened', 75), { what: 'bottle-level', daysAgo: 12, body: { ml: 420 } }],
  },
  {
    kind: 'bottle',
    label: 'PAG 46',
    keepsAt: 'Hall',
    facts: { contents: 'oil', oilType: 'PAG', viscosity: 46, bottleMl: 250 },
    acts: [done('bottle-opened', 20), { what: 'bottle-level', daysAgo: 3, body: { ml: 210 } }],
  },
  {
    kind: 'bottle',
    label: 'Dye 1',
    keepsAt: 'Hall',
    facts: { contents: 'dye', bottleMl: 60 },
    acts: [done('bottle-opened', 20)],
  },
  {
    kind: 'station',
    label: 'Station 1',
    keepsAt: 'Hall',
    facts: {
      tankId: idFor('Tank 1'),
      capacityMg: 60 * KG,
      divisionMg: 5 * G,
      accuracyMg: 10 * G,
      cutOutPa: bar(16),
      filterLifeMg: 150 * KG,
    },
    acts: [scaleCheck(11), done('filter-fitted', 120)],
  },
  {
    kind: 'station',
    label: 'Station 2',
    keepsAt: 'Hall',
    facts: {
      tankId: idFor('Tank 2'),
      capacityMg: 60 * KG,
      divisionMg: 5 * G,
      accuracyMg: 10 * G,
      flammableOk: true,
      cutOutPa: bar(16),
      filterLifeMg: 150 * KG,
    },
    acts: [scaleCheck(11), done('filter-fitted', 60)],
  },
  { kind: 'uv-lamp', label: 'UV lamp', keepsAt: 'Van 2', facts: {} },
  {
    kind: 'pump',
    label: 'Pump 2',
    keepsAt: 'Shop',
    facts: { flowM3s: 1.42e-3 },
    state: 'repair',
    acts: [done('oil-changed', 200)],
  },
]

/** The kit itself, before the jobs that use it. */
export async function loadKit(tx: ShopTx, at: Date): Promise<void> {
  for (const { kind, label, keepsAt, facts, state = 'in-use' } of KIT)
    await addKit(tx, idFor(`kit ${label}`), { kind, label, keepsAt, facts, state }, at)
}

/** What was done with it; dates count back from now. */
export async function loadActs(tx: ShopTx, now: Date): Promise<void> {
  for (const { label, acts = [] } of KIT)
    for (const { what, daysAgo, passed = null, body = {} } of acts)
      await writeAct(tx, {
        actId: idFor(`${label} ${what} ${daysAgo}`),
        kitId: idFor(`kit ${label}`),
        what,
        at: addDays(now, -daysAgo),
        now: addDays(now, -daysAgo),
        userId: idFor('mara'),
        passed,
        body,
      })
}

/** What a technician has in the van, as a tape names it. */
export function setOf(van: string): { kitId: string; kind: KitKind; label: string; facts: KitFacts }[] {
  return KIT.filter((each) => each.keepsAt === van).map(({ kind, label, facts }) => ({
    kitId: idFor(`kit ${label}`),
    kind,
    label,
    facts,
  }))
}
