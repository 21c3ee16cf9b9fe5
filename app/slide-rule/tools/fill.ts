import {
  chooseCylinders,
  fillLimit,
  type FillRuleCode,
  liquidLevel,
  mayTake,
  NoFillLimitError,
} from '#core/cylinders'
import { liquidDensity, OutOfRangeError, tableOf } from '#core/refrigerants'
import { MG_PER_KG, ZERO_CELSIUS_K } from '#core/units'
import { gas, maybe, usually } from '../fields'
import type { Outcome, Step } from '../outcome'
import { LOCAL_RULES, on, Refusal, sayIn, type Surroundings, tool } from '../tool'
import { TABLE_SOURCE } from './sources'

const RULE_WORDS: Record<FillRuleCode, string> = {
  'weight-80': 'A: 0.80 × water capacity',
  'liquid-80-at-25': 'B: 80 % liquid-full at 25 °C (77 °F)',
  'not-full-at-55': 'C: not liquid-full at 55 °C (131 °F), less 2 % for oil',
  'stamped-ratio': 'Stamped filling ratio × water capacity',
}
const percent = (share: number) => `${Math.round(share * 100)} %`

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
    const both: Outcome = {
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

type Given = {
  refrigerant: string
  wc: number
  tare: number | undefined
  gross: number | undefined
  t: number
  ratio: number | undefined
  margin: number | undefined
}

function oneCylinder(
  { refrigerant, wc, tare, gross, t, ratio, margin }: Given,
  { reading, fillMarginPct }: Surroundings,
): Outcome {
  const say = sayIn(reading)
  const marginShare = margin ?? fillMarginPct / 100
  if (gross !== undefined && tare === undefined)
    throw new Refusal({
      tare: 'Enter the stamped tare: without it a gross weight says nothing about what is in it.',
    })
  if (gross !== undefined && gross < tare! - 0.05)
    throw new Refusal({ gross: 'That is less than the empty cylinder weighs: check both figures.' })
  let limit
  try {
    limit = fillLimit({
      refrigerant,
      tareMg: (tare ?? 0) * MG_PER_KG,
      waterCapacityMg: wc * MG_PER_KG,
      marginPct: marginShare * 100,
      fillingRatio: ratio ?? null,
    })
  } catch (error) {
    if (error instanceof NoFillLimitError)
      throw new Refusal({
        ratio: `${refrigerant} has no liquid at 55 °C, so rule C gives no figure: CO₂ cylinders are filled by their stamped filling ratio. Enter it.`,
      })
    throw error
  }
  const netKg = limit.netMg / MG_PER_KG
  const volumeM3 = limit.volumeM3
  const nowKg = gross === undefined ? undefined : Math.max(0, gross - tare!)
  const level = (kg: number, tempK: number) => {
    try {
      return liquidLevel(kg, volumeM3, refrigerant, tempK)
    } catch (error) {
      if (error instanceof OutOfRangeError) return undefined
      throw error
    }
  }
  const at55 = 55 + ZERO_CELSIUS_K
  const nowLevel =
    nowKg === undefined ? undefined : on('t', () => liquidLevel(nowKg, volumeM3, refrigerant, t))
  const level55 = nowKg === undefined ? undefined : level(nowKg, at55)
  const headroom = nowKg === undefined ? undefined : netKg - nowKg
  const working: Step[] = [
    {
      what: 'Inner volume',
      put: `WC / 0.9982 kg/L = ${say('weight', wc)} / 0.9982`,
      gives: say('capacity', volumeM3),
    },
    ...limit.rules.map((rule) => ({
      what: RULE_WORDS[rule.rule],
      put: putIn(rule.rule, { wc, volumeM3, refrigerant, ratio }, say),
      gives:
        rule.netMg === undefined ? 'no figure: no liquid at 55 °C' : say('weight', rule.netMg / MG_PER_KG),
    })),
    ...(marginShare > 0
      ? [{ what: 'Extra margin', put: `× (1 − ${percent(marginShare)})`, gives: say('weight', netKg) }]
      : []),
  ]
  return {
    hero:
      headroom === undefined
        ? {
            label: tare === undefined ? 'May hold, net' : 'Never past, gross',
            text: say('weight', tare === undefined ? netKg : limit.grossMg / MG_PER_KG),
            beside: tare === undefined ? 'enter the tare for the gross limit' : `${say('weight', netKg)} net`,
          }
        : {
            label: headroom >= 0 ? 'Room left' : 'Too much in it',
            text: say('weight', Math.abs(headroom)),
            beside: `never past ${say('weight', limit.grossMg / MG_PER_KG)} gross`,
          },
    ...(headroom !== undefined && headroom < 0
      ? {
          judgement: {
            outcome: 'bad' as const,
            words: 'Overfilled',
            reasons: [
              `It holds ${say('weight', nowKg!)}, and may hold ${say('weight', netKg)}.`,
              'Keep it cool, take it down to its limit now.',
            ],
          },
        }
      : level55 !== undefined && level55 >= 1
        ? {
            judgement: {
              outcome: 'bad' as const,
              words: 'Liquid-full before 55 °C',
              reasons: ['Take some out before it is moved or stands in the sun.'],
            },
          }
        : headroom !== undefined
          ? {
              judgement: {
                outcome: 'good' as const,
                words: 'Within its limit',
                reasons: [`${RULE_WORDS[limit.governs]} governs.`],
              },
            }
          : {}),
    figures: [
      { name: 'net_limit', label: 'May hold, net', kind: 'weight', value: netKg },
      ...(tare === undefined
        ? []
        : [
            {
              name: 'gross_limit',
              label: 'Never past, gross',
              kind: 'weight' as const,
              value: limit.grossMg / MG_PER_KG,
            },
          ]),
      ...(headroom === undefined
        ? []
        : [{ name: 'headroom', label: 'Room left', kind: 'weight' as const, value: headroom }]),
      ...(nowLevel === undefined
        ? []
        : [
            {
              name: 'level_now',
              label: `Liquid level at ${say('temperature', t)}`,
              kind: 'share' as const,
              value: nowLevel,
            },
          ]),
      ...(level55 === undefined
        ? []
        : [{ name: 'level_55', label: 'Liquid level at 55 °C', kind: 'share' as const, value: level55 }]),
      { name: 'volume', label: 'Inner volume', kind: 'capacity', value: volumeM3 },
    ],
    data: {
      governs: limit.governs,
      rules: limit.rules.map(({ rule, netMg, refused }) => ({
        rule,
        net_kg: netMg === undefined ? null : netMg / MG_PER_KG,
        ...(refused ? { refused } : {}),
      })),
    },
    working,
    tables: [
      {
        title: 'The rules; the smallest governs',
        head: ['Rule', 'Net', ''],
        rows: limit.rules.map((r) => [
          RULE_WORDS[r.rule],
          r.netMg === undefined ? 'no figure' : say('weight', r.netMg / MG_PER_KG),
          r.rule === limit.governs ? 'governs' : '',
        ]),
      },
    ],
    sketch: {
      waterCapacityMg: wc * MG_PER_KG,
      refrigerant,
      limitLevel: Math.min(1, level(netKg, t) ?? 1),
      ...(nowLevel === undefined ? {} : { levelNow: Math.min(1, nowLevel) }),
      ...(level55 === undefined ? {} : { level55: Math.min(1, level55) }),
    },
    uncertainty: [],
    source: [],
    caution: [],
    unknown: [],
  }
}

function putIn(
  rule: FillRuleCode,
  {
    wc,
    volumeM3,
    refrigerant,
    ratio,
  }: { wc: number; volumeM3: number; refrigerant: string; ratio: number | undefined },
  say: ReturnType<typeof sayIn>,
): string {
  const density = (celsius: number) => {
    const table = tableOf(refrigerant)
    return celsius <= table.firstC + table.rows - 1
      ? say('density', liquidDensity(table, celsius + ZERO_CELSIUS_K))
      : 'no liquid'
  }
  switch (rule) {
    case 'weight-80':
      return `0.80 × ${say('weight', wc)}`
    case 'liquid-80-at-25':
      return `0.80 × ${say('capacity', volumeM3)} × ${density(25)}`
    case 'not-full-at-55':
      return `0.98 × ${say('capacity', volumeM3)} × ${density(55)}`
    case 'stamped-ratio':
      return `${ratio} × ${say('weight', wc)}`
  }
}

/** Which of the shop's cylinders a charge needs. */
function putAway(
  refrigerant: string,
  chargeKg: number,
  { reading, cylinders, today, fillMarginPct }: Surroundings,
): Outcome {
  const say = sayIn(reading)
  if (!cylinders)
    throw new Refusal({
      charge: 'This token may not look at the shop’s cylinders: make one that may, or leave the charge out.',
    })
  const fit = cylinders.flatMap((cylinder) => {
    const { refusals, roomMg } = mayTake(cylinder, {
      refrigerant,
      massMg: null,
      today,
      customerId: null,
      marginPct: fillMarginPct,
    })
    return refusals.length === 0 && roomMg !== undefined && roomMg > 0
      ? [{ cylinderId: cylinder.cylinderId, label: cylinder.label, balanceMg: cylinder.balanceMg, roomMg }]
      : []
  })
  const chosen = chooseCylinders(fit, chargeKg * MG_PER_KG)
  const togetherKg = fit.reduce((sum, c) => sum + c.roomMg, 0) / MG_PER_KG
  let leftKg = chargeKg
  const rows = (chosen ?? []).map((c) => {
    const takesKg = Math.min(leftKg, c.roomMg / MG_PER_KG)
    leftKg -= takesKg
    return { ...c, takesKg }
  })
  return {
    hero: chosen
      ? {
          label: `For ${say('weight', chargeKg)} of ${refrigerant}`,
          text: chosen.length === 1 ? chosen[0]!.label : `${chosen.length} cylinders`,
          beside:
            chosen.length === 1
              ? `room for ${say('weight', chosen[0]!.roomMg / MG_PER_KG)}`
              : chosen.map((c) => c.label).join(', '),
        }
      : {
          label: `For ${say('weight', chargeKg)} of ${refrigerant}`,
          text: 'not enough room',
          beside: `all ${fit.length} together take ${say('weight', togetherKg)}`,
        },
    judgement: chosen
      ? {
          outcome: 'good',
          words: `${say('weight', chargeKg)} fits: ${chosen.map((c) => c.label).join(', ')}`,
          reasons: [
            'The fewest of the shop’s cylinders, and of those the fullest that stay under their limits.',
          ],
        }
      : {
          outcome: 'bad',
          words: `${say('weight', chargeKg)} does not fit`,
          reasons: [
            `${fit.length} cylinders of the shop may take ${refrigerant}, with room for ${say('weight', togetherKg)} in all.`,
            'Bring another cylinder before starting.',
          ],
        },
    figures: [
      {
        name: 'room_in_shop',
        label: `Room in the shop for ${refrigerant}`,
        kind: 'weight',
        value: togetherKg,
      },
    ],
    data: {
      cylinders: rows.map((c) => ({
        cylinder_id: c.cylinderId,
        label: c.label,
        takes_kg: c.takesKg,
        room_kg: c.roomMg / MG_PER_KG,
      })),
    },
    working: [
      {
        what: 'Cylinders that may take it',
        put: 'same refrigerant or empty, in test date, strong enough, not reserved',
        gives: `${fit.length}, ${say('weight', togetherKg)} of room`,
      },
    ],
    ...(rows.length > 0
      ? {
          tables: [
            {
              title: 'Fill in this order',
              head: ['Cylinder', 'Holds now', 'Room', 'Takes'],
              rows: rows.map((c) => [
                c.label,
                say('weight', c.balanceMg / MG_PER_KG),
                say('weight', c.roomMg / MG_PER_KG),
                say('weight', c.takesKg),
              ]),
            },
          ],
        }
      : {}),
    onward: [
      {
        to: `/jobs/new?${new URLSearchParams({ refrigerant, ...(chosen?.[0] ? { cylinder: chosen[0].label } : {}) })}`,
        words: 'Start a job with it',
      },
    ],
    uncertainty: [],
    source: [],
    caution: [],
    unknown: [],
  }
}
