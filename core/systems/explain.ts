import { liquidDensity, OutOfRangeError, type SaturationTable } from '../refrigerants'
import { MG_PER_KG, MG_PER_LB, MG_PER_OZ } from '../units'
import { lineMassPerMetre } from './expected'
import type { SystemPlate } from './system'

/** What would explain that more, or less, came out than was expected. */
export type Explanation =
  /** A liquid line of that pipe that nobody entered, or that is so much longer than entered. */
  | { kind: 'line'; od: string; lengthM: number; massMg: number }
  /** The plate was read in tenths of a pound and meant ounces, or the other way round. */
  | { kind: 'plate'; notation: 'lb' | 'lb-oz'; massMg: number }
  /** A drier in the liquid line of so much shell volume. */
  | { kind: 'drier'; shellMl: number; massMg: number }
  /** What the books had in the system beyond its plate. */
  | { kind: 'addition'; massMg: number }
  /** So much was lost since somebody charged it last: of the charge, and of it a year. */
  | { kind: 'leak'; share: number; days: number; perYear: number; massMg: number }

/** Liquid lines of split systems: what is run between the units. */
const USUAL_LIQUID = ['1/4', '3/8', '1/2']
/** Shorter is no line worth forgetting, longer is none that is run. */
const LENGTH_M = { least: 2, most: 60 }

/**
 * @param differenceMg what came out less what was expected
 * @param sigmaMg one standard deviation of it: what another reading of the plate leaves must lie within two
 */
export function explanations(
  { differenceMg, sigmaMg }: { differenceMg: number; sigmaMg: number },
  plate: SystemPlate,
  table: SaturationTable,
  past: Past = {},
): Explanation[] {
  return [
    ...additions(differenceMg, sigmaMg, past),
    ...leaks(differenceMg, past),
    ...otherPlates(differenceMg, sigmaMg, plate),
    ...lines(differenceMg, plate, table),
    ...driers(differenceMg, plate, table),
  ]
}

/** What the books know of a system from before this job. */
export interface Past {
  /** Full charge, mg: what a loss is a share of. */
  expectedMg?: number
  /** In it by the books beyond what was expected, mg. */
  beyondMg?: number
  /** Days since anybody charged it last. */
  days?: number
}

function additions(differenceMg: number, sigmaMg: number, { beyondMg }: Past): Explanation[] {
  if (differenceMg <= 0 || beyondMg === undefined || beyondMg <= 0) return []
  return Math.abs(differenceMg - beyondMg) <= Math.max(2 * sigmaMg, 0.2 * differenceMg)
    ? [{ kind: 'addition', massMg: beyondMg }]
    : []
}

/** Sooner than that a share of the charge tells of no year. */
const LEAST_DAYS = 2

function leaks(differenceMg: number, { expectedMg, days }: Past): Explanation[] {
  if (differenceMg >= 0 || !expectedMg || days === undefined || days < LEAST_DAYS) return []
  const share = Math.min(1, -differenceMg / expectedMg)
  return [{ kind: 'leak', share, days, perYear: (share * 365) / days, massMg: -differenceMg }]
}

/** A drier holds so much of its shell as liquid; the maker's figure wins. */
const DRIER_SHARE = 0.6
/** Smaller is none worth forgetting, larger is none that is fitted, mL. */
const DRIER_ML = { least: 100, most: 3_000 }
const DRIER_K = 313.15

function driers(
  differenceMg: number,
  { accessories, panelTotalMg }: SystemPlate,
  table: SaturationTable,
): Explanation[] {
  if (differenceMg <= 0 || panelTotalMg !== null || accessories.some(({ name }) => /drier|dryer/i.test(name)))
    return []
  try {
    const shellMl = differenceMg / (DRIER_SHARE * liquidDensity(table, DRIER_K))
    return shellMl >= DRIER_ML.least && shellMl <= DRIER_ML.most
      ? [{ kind: 'drier', shellMl: Math.round(shellMl / 10) * 10, massMg: differenceMg }]
      : []
  } catch (error) {
    if (error instanceof OutOfRangeError) return []
    throw error
  }
}

function otherPlates(differenceMg: number, sigmaMg: number, { plateMg, panelTotalMg }: SystemPlate) {
  const printed = panelTotalMg ?? plateMg
  if (printed === null) return []
  return otherReadings(printed).filter(
    ({ massMg }) => Math.abs(differenceMg - (massMg - printed)) <= 2 * sigmaMg,
  )
}

/** 3.6 lb as 3 lb 6 oz, and 3 lb 6 oz as 3.6 lb; none where the figure cannot have been mistaken so. */
function otherReadings(massMg: number): Extract<Explanation, { kind: 'plate' }>[] {
  const found: Extract<Explanation, { kind: 'plate' }>[] = []
  const pounds = massMg / MG_PER_LB
  const whole = Math.floor(pounds + 1e-6)
  const tenths = (pounds - whole) * 10
  const ounces = (pounds - whole) * 16
  const isWhole = (value: number) => Math.abs(value - Math.round(value)) < 0.01 && Math.round(value) > 0
  if (isWhole(tenths))
    found.push({
      kind: 'plate',
      notation: 'lb-oz',
      massMg: Math.round(whole * MG_PER_LB + Math.round(tenths) * MG_PER_OZ),
    })
  if (isWhole(ounces) && Math.round(ounces) < 10)
    found.push({
      kind: 'plate',
      notation: 'lb',
      massMg: Math.round((whole + Math.round(ounces) / 10) * MG_PER_LB),
    })
  return found
}

/** Only more can be explained by a line: what is not there cannot be missing. */
function lines(
  differenceMg: number,
  { lines: known, panelTotalMg }: SystemPlate,
  table: SaturationTable,
): Explanation[] {
  // A total in the panel has the lines in it.
  if (differenceMg <= 0 || panelTotalMg !== null) return []
  const entered = known.filter((line) => line.kind === 'liquid').map((line) => line.od)
  return (entered.length > 0 ? entered : USUAL_LIQUID).flatMap((od): Explanation[] => {
    try {
      const lengthM = differenceMg / (lineMassPerMetre('liquid', od, table) * MG_PER_KG)
      return lengthM >= LENGTH_M.least && lengthM <= LENGTH_M.most
        ? [{ kind: 'line', od, lengthM: Math.round(lengthM), massMg: differenceMg }]
        : []
    } catch (error) {
      // No liquid in its line: it explains nothing.
      if (error instanceof OutOfRangeError) return []
      throw error
    }
  })
}
