// Makes caloric.json from a folder of saturation CSVs: node sim/fluid/make.mjs FOLDER
// Columns kept: enthalpy of liquid at bubble and of vapour at dew (J/kg, rounded to 10), on the 1 K grid of core's tables.
import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'

const folder = process.argv[2]
if (!folder) throw new Error('name the folder of the CSV files')

const rowsOf = (file) => {
  const [head, ...lines] = readFileSync(join(folder, file), 'utf8').trim().split(/\r?\n/)
  const names = head.split(',')
  return lines.map((line) => Object.fromEntries(line.split(',').map((cell, i) => [names[i], cell])))
}
const tens = (text) => Math.round(Number(text) / 10) * 10

const fluids = rowsOf('composition.csv').map(({ refrigerant }) => {
  const rows = rowsOf(`${refrigerant.replace(/[()]/g, '')}.csv`)
  return {
    code: refrigerant,
    liquid: rows.map((row) => tens(row.h_liquid_J_kg)),
    vapour: rows.map((row) => tens(row.h_vapour_J_kg)),
  }
})
writeFileSync(
  new URL('./caloric.json', import.meta.url),
  `{"source":"saturation data computed with CoolProp 8.0.0","fluids":[\n${fluids.map((f) => JSON.stringify(f)).join(',\n')}\n]}\n`,
)
console.log(`${fluids.length} fluids`)
