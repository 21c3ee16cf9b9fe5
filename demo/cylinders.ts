import { PA_PER_BAR, PA_PER_PSI, STANDARD_ATMOSPHERE_PA } from '#core/units'
import type { CylinderData } from '#db'

const KG = 1_000_000
const LB = 453_592.37
const bar = (gauge: number) => Math.round(gauge * PA_PER_BAR + STANDARD_ATMOSPHERE_PA)
const psi = (gauge: number) => Math.round(gauge * PA_PER_PSI + STANDARD_ATMOSPHERE_PA)

interface DemoCylinder extends Omit<
  CylinderData,
  'testedOn' | 'ownerCustomerId' | 'ratioGas' | 'workingFillPct'
> {
  testedDaysAgo: number | null
  openingMg: number
  arrival: 'opening' | 'purchase'
  owner?: string
}

const recovery = (
  label: string,
  refrigerant: string | null,
  waterKg: number,
  openingKg: number,
  over: Partial<DemoCylinder> = {},
): DemoCylinder => ({
  label,
  kind: 'recovery',
  refrigerant,
  tareMg: Math.round((4.2 + 0.41 * waterKg) * 100) * 10_000,
  waterCapacityMg: Math.round(waterKg * KG),
  fillingRatio: null,
  servicePressurePa: bar(33),
  testedDaysAgo: 500,
  testYears: 10,
  flammableOk: false,
  condition: openingKg > 0 ? 'used' : 'clean',
  keepsAt: 'Rack A',
  openingMg: Math.round(openingKg * KG),
  arrival: 'opening',
  ...over,
})

const virgin = (
  label: string,
  refrigerant: string,
  waterKg: number,
  kg: number,
  over: Partial<DemoCylinder> = {},
): DemoCylinder => ({
  ...recovery(label, refrigerant, waterKg, kg),
  kind: 'virgin',
  condition: 'clean',
  arrival: 'purchase',
  keepsAt: 'Store',
  ...over,
})

/** What stands in a service station, filled from supply cylinders. */
const STATION_TANK: Partial<DemoCylinder> = {
  kind: 'station',
  condition: 'clean',
  keepsAt: 'Hall',
  servicePressurePa: bar(30),
}

/** The rack: refillable and one-way, metric and US stamps, and the cases that need a look. */
export const CYLINDERS: DemoCylinder[] = [
  recovery('Mole 1', 'R-410A', 21.6, 3.2),
  recovery('Mole 2', 'R-410A', 12.3, 0),
  recovery('Gull 4', 'R-134a', 26.2 * (LB / KG), 2.1, {
    servicePressurePa: psi(400),
    testYears: 5,
    keepsAt: 'Van 2',
  }),
  recovery('Gull 5', 'R-134a', 21.6, 14.6, { keepsAt: 'Rack B' }),
  recovery('Cod 1', 'R-449A', 61.2, 18.5, { keepsAt: 'Fish hall' }),
  recovery('Cod 2', 'R-404A', 47.7 * (LB / KG), 9.8, { servicePressurePa: psi(400), keepsAt: 'Rack B' }),
  recovery('Buoy 7', 'R-407C', 27.2, 6.4, { testedDaysAgo: 3660 + 20 }),
  recovery('Buoy 8', 'R-452A', 21.6, 1.3, { testedDaysAgo: 3650 - 18, keepsAt: 'Van 1' }),
  recovery('Anchor 2', null, 21.6, 0, { flammableOk: true, keepsAt: 'Van 1' }),
  recovery('Anchor 3', 'R-22', 27.2, 4.4, { condition: 'doubtful', keepsAt: 'Cage' }),
  recovery('Spark 1', 'R-600a', 5.1, 0.1, { flammableOk: true, keepsAt: 'Gas locker' }),
  recovery('Ferry 9', 'R-410A', 12.3, 2.65, { owner: 'Skerry Line Ferries', keepsAt: 'Skerry locker' }),
  recovery('Tank 1', 'R-134a', 20, 8, STATION_TANK),
  recovery('Tank 2', 'R-1234yf', 20, 6.5, { ...STATION_TANK, flammableOk: true }),
  virgin('V-410A 11', 'R-410A', 13.6, 9.5),
  virgin('V-134a 20', 'R-134a', 16.4, 11.8),
  virgin('V-449A 3', 'R-449A', 61.2, 46),
  virgin('V-404A 2', 'R-404A', 13.6, 9.9),
  virgin('V-452A 6', 'R-452A', 13.6, 9.9),
  virgin('V-600a 1', 'R-600a', 1.9, 0.42, { flammableOk: true, keepsAt: 'Gas locker' }),
  virgin('One-way 31', 'R-134a', 13.4, 0.43, {
    kind: 'one-way',
    testedDaysAgo: null,
    servicePressurePa: null,
    keepsAt: 'Empties',
  }),
]
