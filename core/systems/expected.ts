import { liquidDensity, OutOfRangeError, type SaturationTable, vapourDensity } from '../refrigerants'
import { MG_PER_KG, ZERO_CELSIUS_K } from '../units'
import { BORE_M, type Line, type SystemPlate } from './system'

export interface ExpectedPart {
  what: 'plate' | 'line' | 'accessory' | 'panel-total'
  name: string
  massMg: number
  /** One standard deviation, mg. */
  sigmaMg: number
}

export interface ExpectedCharge {
  massMg: number
  sigmaMg: number
  parts: ExpectedPart[]
  /** Lines whose mass cannot be known: the gas has no liquid at their temperature. They are not in the sum. */
  unknown: string[]
  /** Plate + lines + accessories, where a total written in the panel was taken instead. */
  insteadOfMg?: number
}

/** One standard deviation as a share: what is printed, measured or guessed. */
const SHARE = { plate: 0.01, panel: 0.015, measuredLine: 0.05, guessedLine: 0.3, accessory: 0.1 }
const LIQUID_LINE_K = 40 + ZERO_CELSIUS_K
const SUCTION_DEW_K = 7 + ZERO_CELSIUS_K

/**
 * What should be in a system: plate + lines beyond what the plate covers + accessories; a total written inside the
 * panel by whoever came before wins. Null where no plate and no total are known.
 * Uncertainties add as squares: a plate is +-1 %, a guessed line length is not.
 * @param table curve of the system's refrigerant
 */
export function expectedCharge(plate: SystemPlate, table: SaturationTable): ExpectedCharge | null {
  const sum = plate.plateMg === null ? null : sumOf(plate, plate.plateMg, table)
  if (plate.panelTotalMg === null) return sum
  const panel = total([
    { what: 'panel-total', name: '', massMg: plate.panelTotalMg, sigmaMg: plate.panelTotalMg * SHARE.panel },
  ])
  return sum ? { ...panel, insteadOfMg: sum.massMg } : panel
}

/**
 * Mass that a metre of line holds, kg/m: pi/4 ID^2 rho, liquid at 40 C, suction vapour at 7 C dew.
 * @throws RangeError for a pipe that is not in the list
 */
export function lineMassPerMetre(kind: Line['kind'], od: string, table: SaturationTable): number {
  const bore = BORE_M[od]
  if (bore === undefined) throw new RangeError(`no bore is known for ${od} in pipe`)
  const density =
    kind === 'liquid' ? liquidDensity(table, LIQUID_LINE_K) : vapourDensity(table, SUCTION_DEW_K)
  return (Math.PI / 4) * bore ** 2 * density
}

function sumOf(plate: SystemPlate, plateMg: number, table: SaturationTable): ExpectedCharge {
  const parts: ExpectedPart[] = [{ what: 'plate', name: '', massMg: plateMg, sigmaMg: plateMg * SHARE.plate }]
  const unknown: string[] = []
  for (const line of plate.lines) {
    const name = `${line.od} in ${line.kind}`
    try {
      const perMetreMg = lineMassPerMetre(line.kind, line.od, table) * MG_PER_KG
      const extraM = Math.max(0, line.lengthM - line.coveredM)
      parts.push({
        what: 'line',
        name,
        massMg: Math.round(extraM * perMetreMg),
        sigmaMg: line.lengthM * (line.guessed ? SHARE.guessedLine : SHARE.measuredLine) * perMetreMg,
      })
    } catch (error) {
      if (!(error instanceof OutOfRangeError)) throw error
      // A line within what the plate covers adds nothing, whatever it holds.
      if (line.lengthM > line.coveredM) unknown.push(name)
    }
  }
  for (const { name, massMg } of plate.accessories)
    parts.push({ what: 'accessory', name, massMg, sigmaMg: massMg * SHARE.accessory })
  return total(parts, unknown)
}

function total(parts: ExpectedPart[], unknown: string[] = []): ExpectedCharge {
  return {
    massMg: parts.reduce((sum, p) => sum + p.massMg, 0),
    sigmaMg: Math.round(Math.hypot(...parts.map((p) => p.sigmaMg))),
    parts: parts.map((p) => ({ ...p, sigmaMg: Math.round(p.sigmaMg) })),
    unknown,
  }
}
