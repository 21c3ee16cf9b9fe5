// The one record of a cylinder: a recovery cylinder of 21.6 kg water capacity in test, half a charge in it.
import type { Cylinder } from '#core/cylinders'

export const aCylinderRecord = (over: Partial<Cylinder> = {}): Cylinder => ({
  cylinderId: 'A',
  label: 'A',
  kind: 'recovery',
  refrigerant: 'R-410A',
  tareMg: 12_000_000,
  waterCapacityMg: 21_600_000,
  fillingRatio: null,
  ratioGas: null,
  workingFillPct: null,
  servicePressurePa: 2_859_000,
  testedOn: '2025-03-01',
  testYears: 5,
  flammableOk: false,
  condition: 'clean',
  ownerCustomerId: null,
  balanceMg: 5_000_000,
  offMg: 0,
  retired: false,
  reservedMg: 0,
  ...over,
})
