import { refrigerant as factsOf, tableOf, vapourDensityAt } from '#core/refrigerants'
import { rebound } from '#core/recovery'
import { formatAbsolutePressure, ZERO_CELSIUS_K } from '#core/units'
import { ALTITUDE, gas, maybe, measure, usually } from '../fields'
import { LOCAL_RULES, onField, Refusal, sayIn, tool } from '../tool'
import { judgementOf } from '../judgement'
import { atmosphereOf } from '../kinds'
import { TABLE_SOURCE } from './sources'

export default tool({
  name: 'rebound',
  title: 'Rebound',
  question: 'The pressure climbed after the stop: how much is still in there?',
  inputs: {
    refrigerant: gas(),
    p1: measure('pressure', 'When it stopped', { most: 2e6 }),
    p2: measure('pressure', 'Now, after waiting', { most: 5e6 }),
    volume: measure('capacity', 'Inner volume of the system', { least: 1e-4, most: 20 }),
    t: usually('temperature', 'Temperature of the system', 20 + ZERO_CELSIUS_K),
    waited: maybe('duration', 'Waited', { least: 1, most: 86_400 }),
    level: maybe('pressure', 'Level to reach', { most: 2e5, help: 'Left empty: 0 on the gauge.' }),
    altitude: ALTITUDE,
  },
  example: { refrigerant: 'R-22', p1: '0 bar', p2: '0.9 bar', volume: '6 L', t: '20 C', waited: '10 min' },
  work({ refrigerant, p1, p2, volume, t, waited, level }, { reading }) {
    const say = sayIn(reading)
    if (p2 < p1)
      throw new Refusal({
        p2: 'It fell instead of rising: nothing comes back, or the two readings are exchanged.',
      })
    const table = tableOf(refrigerant)
    const { molarMassG } = factsOf(refrigerant)
    const levelPa = level ?? atmosphereOf(reading)
    const found = onField('t', () =>
      rebound(
        {
          stoppedPa: p1,
          nowPa: p2,
          volumeM3: volume,
          tempK: t,
          levelPa,
          ...(waited === undefined ? {} : { afterS: waited }),
        },
        table,
        molarMassG,
      ),
    )
    const density = (pa: number) => vapourDensityAt(table, molarMassG, pa, t)
    const air =
      p2 < atmosphereOf(reading)
        ? [
            'Below atmosphere it may also be air that leaks in: if it goes on rising steadily while everything is warm, it is.',
          ]
        : []
    const judgement = judgementOf(found.verdict, ...air)
    return {
      hero: {
        label: 'The next pull brings at least',
        text: say('weight', found.returnedKg),
        beside: `often twice that: ${say('weight', found.oftenKg)}`,
      },
      judgement,
      figures: [
        {
          name: 'returned',
          label: 'Returned to vapour',
          kind: 'weight',
          value: found.returnedKg,
          range: { least: found.returnedKg, most: 2 * found.returnedKg },
        },
        { name: 'rise', label: 'Rise', kind: 'pressure-difference', value: p2 - p1 },
        { name: 'level', label: 'Level', kind: 'pressure', value: levelPa },
      ],
      working: [
        {
          what: 'Density when it stopped',
          put: `${formatAbsolutePressure(p1, reading.units.pressure)} at ${say('temperature', t)}`,
          gives: say('density', density(p1)),
        },
        {
          what: 'Density now',
          put: `${formatAbsolutePressure(p2, reading.units.pressure)} at ${say('temperature', t)}`,
          gives: say('density', density(p2)),
        },
        {
          what: 'Returned',
          put: `V (ρ₂ − ρ₁) = ${say('capacity', volume)} × ${say('density', density(p2) - density(p1))}`,
          gives: say('weight', found.returnedKg),
        },
        ...(waited === undefined
          ? []
          : [
              {
                what: 'Rise',
                put: `${say('pressure-difference', p2 - p1)} in ${say('duration', waited)}`,
                gives: `${say('pressure-difference', ((p2 - p1) / waited) * 60)} a minute`,
              },
            ]),
      ],
      uncertainty: [
        'Vapour density within 1.7 %; the volume is usually a guess, ±30 %, and the mass with it. It is a least: liquid and oil go on giving while one pulls.',
      ],
      source: ['Mass of vapour in a closed volume at two pressures.', TABLE_SOURCE],
      caution: ['If it may leak, do not pull below 0 on the gauge.', LOCAL_RULES],
      unknown: ['How much liquid still sits in cold corners and in oil: frost shows where.'],
      carry: [
        {
          line: `note Rebound ${say('pressure', p1)} to ${say('pressure', p2)}: at least ${say('weight', found.returnedKg)} still in it. ${judgement.words}.`,
          words: 'Note the rebound',
        },
      ],
    }
  },
})
