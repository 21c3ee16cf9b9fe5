// Makes saturation.json and substances.json from a folder of saturation CSVs: node core/refrigerants/data/make.mjs FOLDER
// Columns kept: bubble and dew pressure (Pa absolute), density of liquid at bubble and of vapour at dew (kg/m3).
import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'

const folder = process.argv[2]
if (!folder) throw new Error('name the folder of the CSV files')

const rowsOf = (file) => {
  const [head, ...lines] = readFileSync(join(folder, file), 'utf8').trim().split(/\r?\n/)
  const names = head.split(',')
  return lines.map((line) => Object.fromEntries(line.split(',').map((cell, i) => [names[i], cell])))
}

const refrigerants = rowsOf('composition.csv').map((row) => {
  const rows = rowsOf(`${row.refrigerant.replace(/[()]/g, '')}.csv`)
  rows.forEach((r, i) => {
    if (Number(r.t_C) !== Number(rows[0].t_C) + i) throw new Error(`${row.refrigerant}: not a 1 K grid at ${r.t_C}`)
  })
  return {
    code: row.refrigerant,
    molarMassG: Number(row.molar_mass_g_mol),
    // Null above its critical point.
    bubble40Pa: Number(rows.find((r) => Number(r.t_C) === 40)?.p_bubble_Pa_abs ?? NaN),
    composition:
      row.composition_by_mass === 'pure'
        ? { [row.refrigerant.replace('-', '')]: 1 }
        : Object.fromEntries(
            row.composition_by_mass.split(' + ').map((part) => {
              const [name, share] = part.split(' ')
              return [name, Math.round(parseFloat(share) * 100) / 10_000]
            }),
          ),
    firstC: Number(rows[0].t_C),
    bubblePa: rows.map((r) => Number(r.p_bubble_Pa_abs)),
    // Left out where it is the bubble pressure: pure fluids and azeotropes.
    ...(rows.some((r) => r.p_dew_Pa_abs !== r.p_bubble_Pa_abs) ? { dewPa: rows.map((r) => Number(r.p_dew_Pa_abs)) } : {}),
    liquid: rows.map((r) => Number(r.rho_liquid_kg_m3)),
    vapour: rows.map((r) => Number(r.rho_vapour_kg_m3)),
  }
})

// What a substance is weighs little, and is wanted where no curve is.
const list = (rows) => rows.map((row) => JSON.stringify(row)).join(',\n')
const write = (name, text) => writeFileSync(new URL(`./${name}`, import.meta.url), text)
write(
  'substances.json',
  `[\n${list(refrigerants.map(({ code, molarMassG, bubble40Pa, composition }) => ({ code, molarMassG, bubble40Pa, composition })))}\n]\n`,
)
write(
  'saturation.json',
  `{"source":"saturation data computed with CoolProp 8.0.0","version":1,"refrigerants":[\n${list(
    refrigerants.map(({ molarMassG: _mass, bubble40Pa: _at40, composition: _shares, ...curve }) => curve),
  )}\n]}\n`,
)
console.log(`${refrigerants.length} refrigerants`)
