/**
 * Copper pipe by its outside diameter in inches, metres: bores of soft ACR copper coils (ASTM B280 wall thicknesses).
 * Hard and imperial tubes differ by a few hundredths of a millimetre.
 */
export const BORE_M: Record<string, number> = {
  '1/4': 0.19 * 0.0254,
  '5/16': 0.249 * 0.0254,
  '3/8': 0.311 * 0.0254,
  '1/2': 0.436 * 0.0254,
  '5/8': 0.555 * 0.0254,
  '3/4': 0.68 * 0.0254,
  '7/8': 0.785 * 0.0254,
  '1-1/8': 1.025 * 0.0254,
  '1-3/8': 1.265 * 0.0254,
}

export interface Line {
  kind: 'liquid' | 'suction'
  /** Outside diameter, inches, one of {@link BORE_M}. */
  od: string
  lengthM: number
  /** Length that the plate charge covers already. */
  coveredM: number
  guessed: boolean
}

export interface Accessory {
  name: string
  massMg: number
}

export type Trade = 'stationary' | 'vehicle'

/** A system as the formulas see it. */
export interface SystemPlate {
  trade: Trade
  refrigerant: string | null
  /** null: no plate, or unreadable. */
  plateMg: number | null
  /** A total that an earlier technician wrote inside the panel. */
  panelTotalMg: number | null
  lines: Line[]
  accessories: Accessory[]
}
