import type { Cylinder } from '#core/cylinders'
import type { SystemPlate } from '#core/systems'
import { MG_PER_KG } from '#core/units'

const kg = (massMg: number) => String(massMg / MG_PER_KG)

const link = (tool: string, given: Record<string, string | null | undefined>): string => {
  const query = new URLSearchParams()
  for (const [name, value] of Object.entries(given)) if (value) query.set(name, value)
  return `/slide-rule/${tool}?${query}`
}

/** How a cylinder's limit comes about; undefined where there is nothing to work out. */
export function fillLink(
  cylinder: Pick<Cylinder, 'refrigerant' | 'waterCapacityMg' | 'tareMg' | 'balanceMg' | 'fillingRatio'>,
): string | undefined {
  const { refrigerant, waterCapacityMg, tareMg, balanceMg, fillingRatio } = cylinder
  if (!refrigerant || waterCapacityMg === null) return undefined
  return link('fill', {
    refrigerant,
    wc_kg: kg(waterCapacityMg),
    tare_kg: kg(tareMg),
    gross_kg: kg(tareMg + Math.max(0, balanceMg)),
    ratio: fillingRatio === null ? null : String(fillingRatio),
  })
}

const LINES_SHOWN = 4
const PARTS_SHOWN = 3

/** How what should be in a system comes about; undefined where too little is known, or more than the tool takes. */
export function expectedChargeLink(plate: SystemPlate): string | undefined {
  const { refrigerant, plateMg, panelTotalMg, lines, accessories } = plate
  if (!refrigerant || (plateMg === null && panelTotalMg === null)) return undefined
  if (lines.length > LINES_SHOWN || accessories.length > PARTS_SHOWN) return undefined
  return link('expected-charge', {
    refrigerant,
    plate_kg: plateMg === null ? null : kg(plateMg),
    panel_kg: panelTotalMg === null ? null : kg(panelTotalMg),
    ...Object.fromEntries(
      lines.flatMap(({ kind, od, lengthM, coveredM, guessed }, i) => [
        [`line_${i + 1}_kind`, kind],
        [`line_${i + 1}_od`, od],
        [`line_${i + 1}_length_m`, String(lengthM)],
        [`line_${i + 1}_covered_m`, String(coveredM)],
        [`line_${i + 1}_known`, guessed ? 'guessed' : 'measured'],
      ]),
    ),
    ...Object.fromEntries(accessories.map(({ massMg }, i) => [`part_${i + 1}_mass_kg`, kg(massMg)])),
  })
}
