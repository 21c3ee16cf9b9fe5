import { PA_PER_BAR, STANDARD_ATMOSPHERE_PA } from '#core/units'
import type { SystemData } from '#db'

const G = 1_000
const KG = 1_000_000
const lbOz = (lb: number, oz: number) => Math.round(lb * 453_592.37 + oz * 28_349.523125)
const bar = (gauge: number) => Math.round(gauge * PA_PER_BAR + STANDARD_ATMOSPHERE_PA)

export const SITES: { customer: string; site: string; altitudeM?: number }[] = [
  { customer: 'Lanternquay Fish Hall', site: 'Cold store, hall 2' },
  { customer: 'Lanternquay Fish Hall', site: 'Freezing line' },
  { customer: 'Old Mole Bakery', site: 'Mole street' },
  { customer: 'Skerry Line Ferries', site: 'MV Kittiwake' },
  { customer: 'Tidewater Bus Depot', site: 'Depot yard' },
  { customer: 'Saltway Vans', site: 'Quay 5' },
  { customer: 'Appleholm Orchard', site: 'Hill farm', altitudeM: 640 },
  { customer: 'Quayside Clinic', site: 'Pharmacy' },
]

interface DemoSystem extends Omit<SystemData, 'siteId'> {
  key: string
  site: string
}

const system = (
  key: string,
  name: string,
  site: string,
  refrigerant: string | null,
  plateMg: number | null,
  over: Partial<DemoSystem> = {},
): DemoSystem => ({
  key,
  name,
  site,
  trade: 'stationary',
  refrigerant,
  plateMg,
  plateText: '',
  panelTotalMg: null,
  lines: [],
  accessories: [],
  oilType: 'POE 32',
  metering: 'valve',
  subcoolingTargetK: null,
  registration: '',
  vin: null,
  compressor: '',
  maxTestPressurePa: bar(28),
  ...over,
})

const vehicle = (...args: Parameters<typeof system>): DemoSystem => ({
  ...system(...args),
  trade: 'vehicle',
  oilType: 'PAG 46',
  maxTestPressurePa: null,
  ...args[5],
})

export const SYSTEMS: DemoSystem[] = [
  system('fish-store', 'Fish cold store', 'Lanternquay Fish Hall/Cold store, hall 2', 'R-449A', 24 * KG, {
    lines: [
      { kind: 'liquid', od: '5/8', lengthM: 22, coveredM: 0, guessed: false },
      { kind: 'suction', od: '1-3/8', lengthM: 22, coveredM: 0, guessed: false },
    ],
    accessories: [{ name: 'Liquid-line drier', massMg: 340 * G }],
  }),
  system('herring', 'Herring cold store', 'Lanternquay Fish Hall/Cold store, hall 2', 'R-449A', 6.2 * KG),
  system('blast', 'Blast freezer', 'Lanternquay Fish Hall/Freezing line', 'R-404A', 14.5 * KG, {
    panelTotalMg: 15.2 * KG,
  }),
  system('retarder', 'Bakery retarder', 'Old Mole Bakery/Mole street', 'R-452A', 4.2 * KG, {
    lines: [{ kind: 'liquid', od: '3/8', lengthM: 14, coveredM: 5, guessed: true }],
    subcoolingTargetK: 5.5,
  }),
  system('bridge', 'Bridge air conditioning', 'Skerry Line Ferries/MV Kittiwake', 'R-410A', 3 * KG, {
    lines: [
      { kind: 'liquid', od: '3/8', lengthM: 12, coveredM: 7.5, guessed: false },
      { kind: 'suction', od: '3/4', lengthM: 12, coveredM: 7.5, guessed: false },
    ],
  }),
  system('saloon', 'Saloon air conditioning', 'Skerry Line Ferries/MV Kittiwake', 'R-407C', 8.6 * KG),
  vehicle('bus-12', 'Bus 12, roof unit', 'Tidewater Bus Depot/Depot yard', 'R-134a', 4.8 * KG),
  vehicle('bus-15', 'Bus 15, electric', 'Tidewater Bus Depot/Depot yard', 'R-410A', 3.4 * KG, {
    oilType: 'POE, high-voltage type',
  }),
  vehicle('van-3', 'Van 3, refrigerated body', 'Saltway Vans/Quay 5', 'R-452A', lbOz(3, 9), {
    plateText: '3 lb 9 oz',
    oilType: 'POE 35',
  }),
  vehicle('tractor', 'Orchard tractor, cab', 'Appleholm Orchard/Hill farm', 'R-134a', lbOz(2, 2), {
    plateText: '2 lb 2 oz',
    metering: 'fixed',
  }),
  vehicle('loader', 'Yard loader, cab', 'Saltway Vans/Quay 5', 'R-134a', 0.75 * KG),
  vehicle('shunter', 'Yard shunter, cab', 'Saltway Vans/Quay 5', 'R-1234yf', 0.48 * KG, {
    oilType: 'PAG 46',
  }),
  system('vaccine', 'Vaccine fridge', 'Quayside Clinic/Pharmacy', 'R-600a', 58 * G, {
    metering: 'fixed',
    oilType: 'Mineral 10',
    maxTestPressurePa: null,
  }),
  vehicle('van-7', 'Van 7, plate gone', 'Saltway Vans/Quay 5', 'R-452A', null, { oilType: 'POE 35' }),
]
