import { looksLikeASizeName } from '#core/cylinders'
import { MG_PER_KG, ZERO_CELSIUS_K } from '#core/units'
import { choice, flag, gas, maybe, usually } from '../fields'
import type { Answer } from '../outcome'
import { LOCAL_RULES, Refusal, tool } from '../tool'
import { oneCylinder } from './fill-one'
import { putAway } from './fill-shop'
import { TABLE_SOURCE } from './sources'

export default tool({
  name: 'fill',
  title: 'Cylinder fill',
  question: 'How much may this cylinder hold, and which cylinders does a charge need?',
  inputs: {
    refrigerant: gas(),
    wc: maybe('weight', 'Stamped water capacity (WC)', {
      least: 0.1,
      most: 2000,
      help: 'The stamped figure. The size in a cylinder’s name is not its water capacity.',
    }),
    stamped: flag('The water capacity is stamped so: it is not the size in its name'),
    contents: choice('What is in it', {
      named: 'only this refrigerant',
      doubtful: 'mixed, doubtful or unknown: the lightest liquid counts',
    }),
    tare: maybe('weight', 'Stamped tare (TW)', { least: 0, most: 2000 }),
    gross: maybe('weight', 'On the scale now (gross)', { least: 0, most: 4000 }),
    t: usually('temperature', 'Temperature now', 20 + ZERO_CELSIUS_K),
    ratio: maybe('number', 'Stamped filling ratio', {
      least: 0.1,
      most: 1.5,
      help: 'kg for each kg of water capacity; needed for R-744.',
    }),
    margin: maybe('share', 'Extra margin', {
      aside: true,
      least: 0,
      most: 0.3,
      help: 'Left empty: the shop’s own, from Settings.',
    }),
    charge: maybe('weight', 'A charge to put away', {
      least: 0.01,
      most: 10_000,
      help: 'Which of the shop’s cylinders it needs.',
    }),
  },
  example: { refrigerant: 'R-32', wc: '21.6 kg', tare: '11.3 kg', gross: '19 kg', t: '20 C' },
  usesCylinders: true,
  work(values, surroundings) {
    const { wc, charge } = values
    if (wc === undefined && charge === undefined)
      throw new Refusal({ wc: 'Enter the stamped water capacity, or below a charge to put away.' })
    const own = wc === undefined ? undefined : oneCylinder({ ...values, wc }, surroundings)
    const shop = charge === undefined ? undefined : putAway(values.refrigerant, charge, surroundings)
    const both: Answer = {
      ...(own ?? shop!),
      ...(own && shop
        ? {
            tables: [...(own.tables ?? []), ...(shop.tables ?? [])],
            working: [...own.working, ...shop.working],
            data: { ...own.data, ...shop.data },
            judgement: own.judgement?.outcome === 'bad' ? own.judgement : (shop.judgement ?? own.judgement!),
          }
        : {}),
    }
    return {
      ...both,
      uncertainty: [
        'Stamped figures are good to about 1 %; the rules carry their own reserve.',
        'Densities within 0.05 % of the equations of state.',
      ],
      source: ['A: common weight rule. B: recovery-container guideline. C: transport rule.', TABLE_SOURCE],
      caution: [
        ...(wc !== undefined && !values.stamped && looksLikeASizeName(Math.round(wc * MG_PER_KG))
          ? [
              'The water capacity is a round figure: is it the size in its name? A “30 lb” cylinder has about 26 lb. Read WC on the collar.',
            ]
          : []),
        'An overfilled cylinder bursts when it warms.',
        'Weigh with nothing touching the platform; the gross limit is never to be passed.',
        LOCAL_RULES,
      ],
      unknown: [
        'Oil and air in the cylinder, and gas that is not what the label says.',
        'Where each gas has a filling ratio of its own by law, that ratio wins: enter it.',
      ],
    }
  },
})
