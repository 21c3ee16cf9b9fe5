import { MG_PER_KG, MG_PER_LB, MG_PER_OZ, massNumber } from '#core/units'
import { choice, measure, rows } from '../fields'
import { Refusal, sayIn, tool } from '../tool'

const NOTATIONS = ['lb and oz', 'decimal lb', 'oz', 'kg', 'g']

/** A weight in every notation of the trade. */
function notations(kg: number): string[] {
  const mg = kg * MG_PER_KG
  const sign = mg < 0 ? '−' : ''
  const ounces = Math.abs(mg) / MG_PER_OZ
  const hundredths = Math.round(ounces * 100)
  const pounds = Math.floor(hundredths / 1600)
  return [
    `${sign}${pounds} lb ${Number(((hundredths % 1600) / 100).toFixed(2))} oz`,
    `${massNumber(mg, 'lb')} lb`,
    `${(mg / MG_PER_OZ).toFixed(2)} oz`,
    `${massNumber(mg, 'kg')} kg`,
    `${massNumber(mg, 'g')} g`,
  ].map((text) => text.replace(/^-/, '−'))
}

/** 3.6 lb is not 3 lb 6 oz: what the slip would cost. */
function trap(kg: number) {
  const decimal = Math.abs(kg * MG_PER_KG) / MG_PER_LB
  const tenths = Math.round(decimal * 10)
  const [pounds, tenth] = [Math.floor(tenths / 10), tenths % 10]
  if (tenth === 0) return undefined
  const misreadKg = (pounds * MG_PER_LB + tenth * MG_PER_OZ) / MG_PER_KG
  return {
    decimal: `${tenths / 10} lb`,
    misread: `${pounds} lb ${tenth} oz`,
    offKg: (tenths / 10) * (MG_PER_LB / MG_PER_KG) - misreadKg,
  }
}

export default tool({
  name: 'weights',
  title: 'Weights',
  question: 'What is this weight in the other notation, and what do these come to?',
  inputs: {
    w: rows('Weights', 5, 'weight', {
      weight: measure('weight', 'Weight', {
        least: -100_000,
        most: 100_000,
        help: '3 lb 9 oz, 3lb9, 57 oz, 3.56 lb, 0.75 kg, 750 g',
      }),
      sign: choice('Sign', { plus: '+ add', minus: '− take away' }),
    }),
  },
  example: { w_1_weight: '3.6 lb', w_2_weight: '12 oz', w_2_sign: 'minus' },
  work({ w }, { reading }) {
    if (w.length === 0) throw new Refusal({ w_1_weight: 'Enter a weight, such as 3 lb 9 oz or 1.6 kg.' })
    const say = sayIn(reading)
    const sumKg = w.reduce((sum, { weight, sign }) => sum + (sign === 'minus' ? -weight : weight), 0)
    const warn = trap(sumKg)
    return {
      hero: {
        label: w.length === 1 ? 'In every notation' : 'Together',
        text: notations(sumKg)[reading.units.weight === 'kg' ? 3 : 0]!,
        beside: notations(sumKg).join(' = '),
      },
      ...(warn
        ? {
            judgement: {
              outcome: 'caution' as const,
              words: `${warn.decimal} is not ${warn.misread}`,
              reasons: [
                `The digit after the point is tenths of a pound, not ounces. Taking one for the other is off by ${say('weight', Math.abs(warn.offKg))}.`,
              ],
            },
          }
        : {}),
      figures: [{ name: 'sum', label: 'Together', kind: 'weight', value: sumKg }],
      working: w.map(({ weight, sign }, i) => ({
        what: i === 0 && sign === 'plus' ? 'Start with' : sign === 'minus' ? 'Take away' : 'Add',
        put: notations(weight).join(' = '),
        gives: say('weight', weight),
      })),
      uncertainty: [
        'Exact: the factors are defined, 1 lb = 453.59237 g, 1 oz = 28.349523125 g. A scale is only good to its own last digit.',
      ],
      source: ['International pound of 1959.'],
      caution: [],
      unknown: ['Whether a weight is gross or net.'],
      tables: [
        {
          title: 'Every notation',
          head: ['', ...NOTATIONS],
          rows: [
            ...(w.length > 1
              ? w.map(({ weight, sign }, i) => [
                  `${sign === 'minus' ? '−' : '+'} no. ${i + 1}`,
                  ...notations(weight),
                ])
              : []),
            ['Together', ...notations(sumKg)],
          ],
        },
      ],
    }
  },
})
