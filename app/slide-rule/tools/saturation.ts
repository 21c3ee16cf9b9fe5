import {
  liquidDensity,
  refrigerant as factsOf,
  saturationPressurePa,
  saturationTempK,
  OutOfRangeError,
  type SaturationTable,
  tableOf,
  vapourDensity,
} from '#core/refrigerants'
import { formatAbsolutePressure, ZERO_CELSIUS_K } from '#core/units'
import { ALTITUDE, gas, maybe, maybeGas, rows } from '../fields'
import type { Chart, Figure, Step } from '../outcome'
import { LOCAL_RULES, onField, Refusal, sayIn, tool } from '../tool'
import { TABLE_ERROR, TABLE_SOURCE } from './sources'

/** Bubble and dew further apart than this are told apart on screen, kelvin. */
const GLIDE_K = 0.2
const CURVE = { fromC: -45, toC: 65, stepK: 2 }

/** Bubble pressures for a chart, in the reader's units. */
function curve(code: string, say: ReturnType<typeof sayIn>): [number, number][] {
  const table = tableOf(code)
  const first = Math.max(CURVE.fromC, table.firstC)
  const last = Math.min(CURVE.toC, table.firstC + table.rows - 1)
  return Array.from({ length: Math.floor((last - first) / CURVE.stepK) + 1 }, (_, i) => {
    const tempK = first + i * CURVE.stepK + ZERO_CELSIUS_K
    return [
      say.plain('temperature', tempK),
      say.plain('pressure', saturationPressurePa(table, tempK, 'bubble')),
    ]
  })
}

export default tool({
  name: 'saturation',
  title: 'Saturation',
  question: 'Which pressure belongs to this temperature, or the other way round?',
  inputs: {
    refrigerant: gas(),
    t: maybe('temperature', 'Temperature', { help: 'Either this …' }),
    p: maybe('pressure', 'Pressure', {
      help: '… or this. Without a sign it is gauge; write psia or bar a for absolute.',
    }),
    altitude: ALTITUDE,
    also: rows('Compare with', 3, 'refrigerant', { refrigerant: maybeGas('Another refrigerant') }),
  },
  example: { refrigerant: 'R-407C', t: '31 C' },
  work({ refrigerant, t, p, also }, { reading }) {
    if (t === undefined && p === undefined) throw new Refusal({ t: 'Enter a temperature or a pressure.' })
    if (t !== undefined && p !== undefined)
      throw new Refusal({ p: 'Enter one of the two only: the other one follows from it.' })
    const say = sayIn(reading)
    const table = tableOf(refrigerant)
    const { safetyClass } = factsOf(refrigerant)
    const figures: Figure[] = []
    const working: Step[] = []
    let hero
    let mark: { tempK: number; pressurePa: number }
    if (t !== undefined) {
      const bubble = onField('t', () => saturationPressurePa(table, t, 'bubble'))
      const dew = saturationPressurePa(table, t, 'dew')
      const split = glides(table, t, dew)
      mark = { tempK: t, pressurePa: bubble }
      hero = {
        label: `${refrigerant} at ${say('temperature', t)}`,
        text: say('pressure', bubble),
        beside: split
          ? `bubble, for liquid. Dew, for vapour: ${say('pressure', dew)}`
          : `${formatAbsolutePressure(bubble, reading.units.pressure)}`,
      }
      figures.push(
        { name: 'bubble_pressure', label: 'Bubble pressure (liquid)', kind: 'pressure', value: bubble },
        { name: 'dew_pressure', label: 'Dew pressure (vapour)', kind: 'pressure', value: dew },
        {
          name: 'liquid_density',
          label: 'Density of the liquid',
          kind: 'density',
          value: liquidDensity(table, t),
        },
        {
          name: 'vapour_density',
          label: 'Density of the vapour',
          kind: 'density',
          value: vapourDensity(table, t),
        },
      )
      working.push(
        {
          what: 'Bubble pressure',
          put: `cubic through four rows of the table in ln p, at ${(t - ZERO_CELSIUS_K).toFixed(2)} °C`,
          gives: `${formatAbsolutePressure(bubble, reading.units.pressure)}`,
        },
        {
          what: 'Dew pressure',
          put: 'the same through the dew column',
          gives: `${formatAbsolutePressure(dew, reading.units.pressure)}`,
        },
      )
    } else {
      const bubble = onField('p', () => saturationTempK(table, p!, 'bubble'))
      const dew = onField('p', () => saturationTempK(table, p!, 'dew'))
      const glide = dew - bubble
      mark = { tempK: bubble, pressurePa: p! }
      hero = {
        label: `${refrigerant} at ${say('pressure', p!)}`,
        text: say('temperature', bubble),
        beside:
          glide > GLIDE_K
            ? `bubble, for liquid. Dew, for vapour: ${say('temperature', dew)}`
            : 'bubble and dew',
      }
      figures.push(
        {
          name: 'bubble_temperature',
          label: 'Bubble temperature (liquid, subcooling)',
          kind: 'temperature',
          value: bubble,
        },
        {
          name: 'dew_temperature',
          label: 'Dew temperature (vapour, superheat)',
          kind: 'temperature',
          value: dew,
        },
        { name: 'glide', label: 'Glide at this pressure', kind: 'difference', value: Math.max(0, glide) },
      )
      working.push(
        {
          what: 'Pressure, absolute',
          put: `gauge ${say('pressure', p!)} + local atmosphere ${((reading.atmospherePa ?? 0) / 1e5).toFixed(4)} bar`,
          gives: `${(p! / 1e5).toFixed(4)} bar absolute`,
        },
        {
          what: 'Bubble temperature',
          put: 'the cubic in ln p solved for T',
          gives: `${(bubble - ZERO_CELSIUS_K).toFixed(2)} °C`,
        },
        {
          what: 'Dew temperature',
          put: 'the same through the dew column',
          gives: `${(dew - ZERO_CELSIUS_K).toFixed(2)} °C`,
        },
      )
    }
    const others = also.flatMap((row) =>
      row.refrigerant && row.refrigerant !== refrigerant ? [row.refrigerant] : [],
    )
    const codes = [...new Set([refrigerant, ...others])]
    const chart: Chart = {
      title: 'Bubble pressure over temperature',
      x: { name: 'Temperature', unit: say.unit('temperature') },
      y: { name: 'Pressure', unit: say.unit('pressure') },
      lines: codes.map((code) => ({ name: code, points: curve(code, say) })),
      marks: [
        { name: 'Here', x: say.plain('temperature', mark.tempK), y: say.plain('pressure', mark.pressurePa) },
      ],
    }
    return {
      hero,
      figures,
      working,
      uncertainty: [
        TABLE_ERROR,
        'Your gauge and clamp are far coarser: 1 % of full scale and 0.5 to 1 K are usual.',
      ],
      source: [TABLE_SOURCE],
      caution: [
        'Bubble pressure with liquid and subcooling, dew with vapour and superheat.',
        ...(safetyClass === 'A1' ? [] : [`${refrigerant} is of class ${safetyClass}: flammable or toxic.`]),
        LOCAL_RULES,
      ],
      unknown: [`Whether the gas is ${refrigerant} at all, and whether air is in it.`],
      chart,
      ...(codes.length > 1 ? { tables: [compared(codes, mark.tempK, say)] } : {}),
      onward: [
        { to: `identify?expected=${encodeURIComponent(refrigerant)}`, words: 'Is it what the plate says?' },
      ],
    }
  },
})

function compared(codes: string[], tempK: number, say: ReturnType<typeof sayIn>) {
  const cell = (code: string, side: 'bubble' | 'dew') => {
    const table = tableOf(code)
    const inside =
      tempK - ZERO_CELSIUS_K >= table.firstC && tempK - ZERO_CELSIUS_K <= table.firstC + table.rows - 1
    return inside ? say('pressure', saturationPressurePa(table, tempK, side)) : 'outside its table'
  }
  return {
    title: `Side by side at ${say('temperature', tempK)}`,
    head: ['Refrigerant', 'Bubble', 'Dew', 'Class', 'GWP'],
    rows: codes.map((code) => {
      const { safetyClass, gwp } = factsOf(code)
      return [code, cell(code, 'bubble'), cell(code, 'dew'), safetyClass, String(Math.round(gwp))]
    }),
  }
}

/** Whether bubble and dew part by more than a clamp can tell; at the cold end of a table a blend's dew lies below it. */
function glides(table: SaturationTable, tempK: number, dewPa: number): boolean {
  try {
    return Math.abs(tempK - saturationTempK(table, dewPa, 'bubble')) > GLIDE_K
  } catch (error) {
    if (error instanceof OutOfRangeError) return true
    throw error
  }
}
