import { tableOf } from '#core/refrigerants'
import { BORE_M, drierHoldKg, expectedCharge, lineMassPerMetre } from '#core/systems'
import { MG_PER_KG, M_PER_FT, MG_PER_OZ } from '#core/units'
import { choice, gas, maybe, measure, rows, usually } from '../fields'
import type { Step } from '../outcome'
import { LOCAL_RULES, onField, Refusal, sayIn, tool } from '../tool'
import { TABLE_SOURCE } from './sources'

const PIPES = Object.fromEntries(Object.keys(BORE_M).map((od) => [od, `${od} in`]))

export default tool({
  name: 'expected-charge',
  title: 'Expected charge',
  question: 'What should be in the system, with its lines and its driers?',
  inputs: {
    refrigerant: gas(),
    plate: maybe('weight', 'Charge on the plate', { least: 0.001, most: 20_000 }),
    panel: maybe('weight', 'Total written in the panel', {
      least: 0.001,
      most: 20_000,
      help: 'By whoever came before; it wins over the sum.',
    }),
    line: rows('Lines', 4, 'length', {
      kind: choice('Line', { liquid: 'liquid', suction: 'suction' }),
      od: choice('Outside diameter', { '3/8': '3/8 in', ...PIPES }),
      length: measure('length', 'Length', { least: 0, most: 1000 }),
      covered: usually('length', 'Covered by the plate', 0, { least: 0, most: 1000 }),
      known: choice('Length is', { measured: 'measured', guessed: 'guessed' }),
    }),
    part: rows('Accessories added since', 3, 'mass', {
      mass: measure('weight', 'Holds', { least: 0, most: 500 }),
    }),
    drier: maybe('capacity', 'Liquid-line drier, shell volume', {
      least: 0,
      most: 0.05,
      help: 'When the maker’s figure is not known: about 0.6 of it fills with liquid.',
    }),
  },
  example: {
    refrigerant: 'R-410A',
    plate: '2.8 kg',
    line_1_od: '3/8',
    line_1_length: '15 m',
    line_1_covered: '7.5 m',
    line_2_kind: 'suction',
    line_2_od: '3/4',
    line_2_length: '15 m',
    line_2_covered: '7.5 m',
  },
  work({ refrigerant, plate, panel, line, part, drier }, { reading }) {
    if (plate === undefined && panel === undefined)
      throw new Refusal({ plate: 'Enter the charge on the plate, or a total written in the panel.' })
    const say = sayIn(reading)
    const table = tableOf(refrigerant)
    for (const each of line)
      if (each.covered > each.length)
        throw new Refusal({
          [`line_${each.row}_covered`]:
            'The plate covers no more than the whole line: enter the smaller of the two.',
        })
    const drierKg = drier === undefined ? 0 : onField('refrigerant', () => drierHoldKg(table, drier))
    const expected = onField('refrigerant', () =>
      expectedCharge(
        {
          trade: 'stationary',
          refrigerant,
          plateMg: plate === undefined ? null : plate * MG_PER_KG,
          panelTotalMg: panel === undefined ? null : panel * MG_PER_KG,
          lines: line.map((l) => ({
            kind: l.kind,
            od: l.od,
            lengthM: l.length,
            coveredM: l.covered,
            guessed: l.known === 'guessed',
          })),
          accessories: [
            ...part.map(({ mass }) => ({ name: 'accessory', massMg: Math.round(mass * MG_PER_KG) })),
            ...(drierKg > 0 ? [{ name: 'drier', massMg: Math.round(drierKg * MG_PER_KG) }] : []),
          ],
        },
        table,
      ),
    )!
    const sumKg = expected.massMg / MG_PER_KG
    const twoSigmaKg = (2 * expected.sigmaMg) / MG_PER_KG
    const lines: Step[] = line.map((l) => {
      const perMetre = onField('refrigerant', () => lineMassPerMetre(l.kind, l.od, table))
      const perLength =
        reading.units.length === 'm'
          ? `${(perMetre * 1000).toFixed(1)} g/m`
          : `${((perMetre * MG_PER_KG * M_PER_FT) / MG_PER_OZ).toFixed(3)} oz/ft`
      return {
        what: `${l.od} in ${l.kind} line`,
        put: `(${say('length', l.length)} − ${say('length', l.covered)}) × ${perLength}`,
        gives: say('weight', perMetre * (l.length - l.covered)),
      }
    })
    return {
      hero: {
        label: 'Should be in it',
        text: say('weight', sumKg),
        beside: `give or take ${say('weight', twoSigmaKg)}`,
      },
      figures: [
        {
          name: 'expected',
          label: 'Should be in it',
          kind: 'weight',
          value: sumKg,
          range: { least: sumKg - twoSigmaKg, most: sumKg + twoSigmaKg },
        },
      ],
      data: {
        parts: expected.parts.map((p) => ({
          what: p.what,
          name: p.name,
          mass_kg: p.massMg / MG_PER_KG,
          sigma_kg: p.sigmaMg / MG_PER_KG,
        })),
      },
      working: [
        ...(plate === undefined ? [] : [{ what: 'Plate', put: 'as printed', gives: say('weight', plate) }]),
        ...lines,
        ...(drierKg > 0
          ? [
              {
                what: 'Drier',
                put: `0.6 × ${say('capacity', drier!)} × liquid at 40 °C`,
                gives: say('weight', drierKg),
              },
            ]
          : []),
        ...part.map(({ mass }) => ({ what: 'Accessory', put: 'as given', gives: say('weight', mass) })),
        ...(panel === undefined
          ? []
          : [
              {
                what: 'Total in the panel',
                put:
                  expected.insteadOfMg === undefined
                    ? 'taken as it is'
                    : `taken instead of ${say('weight', expected.insteadOfMg / MG_PER_KG)}`,
                gives: say('weight', panel),
              },
            ]),
      ],
      uncertainty: [
        'Plate ±1 %, panel ±1.5 %, a measured line ±5 %, a guessed one ±30 %, accessories ±10 %, one standard deviation each; they add as squares, and what is shown is two.',
      ],
      source: [
        'Mass of a metre: π/4 · bore² · density, liquid at 40 °C, suction vapour at 7 °C dew; soft copper bores.',
        TABLE_SOURCE,
      ],
      caution: ['The plate of a split system speaks of its outdoor part only.', LOCAL_RULES],
      unknown: [
        'Whether somebody added refrigerant and wrote it nowhere.',
        'How full the condenser and receiver of this machine run.',
      ],
      tables: [
        {
          title: 'Where it is',
          head: ['', 'Mass', 'Plus or minus'],
          rows: expected.parts.map((p) => [
            p.what === 'plate' ? 'Plate' : p.what === 'panel-total' ? 'Total in the panel' : p.name,
            say('weight', p.massMg / MG_PER_KG),
            say('weight', (2 * p.sigmaMg) / MG_PER_KG),
          ]),
        },
      ],
      carry: [
        {
          line: `note Should be in it: ${say('weight', sumKg)} ± ${say('weight', twoSigmaKg)}`,
          words: 'Note what should be in it',
        },
      ],
      onward: [
        {
          to: `fill?refrigerant=${encodeURIComponent(refrigerant)}&charge_kg=${sumKg.toFixed(3)}`,
          words: 'Which cylinders does it need?',
        },
      ],
    }
  },
})
