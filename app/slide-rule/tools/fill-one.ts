import { fillLimit, type FillRuleCode, liquidLevel, NoFillLimitError } from '#core/cylinders'
import { liquidDensity, OutOfRangeError, tableOf } from '#core/refrigerants'
import { MG_PER_KG, ZERO_CELSIUS_K } from '#core/units'
import { FILL_RULE_WORDS } from '~/words/en'
import type { Answer, Step } from '../outcome'
import { onField, Refusal, sayIn, type Surroundings } from '../tool'

const LETTERS: Record<FillRuleCode, string> = {
  'weight-80': 'A: ',
  'liquid-80-at-25': 'B: ',
  'not-full-at-55': 'C: ',
  'stamped-ratio': '',
}
const ruleWords = (rule: FillRuleCode) => LETTERS[rule] + FILL_RULE_WORDS[rule]
const percent = (share: number) => `${Math.round(share * 100)} %`

type Given = {
  refrigerant: string
  wc: number
  tare: number | undefined
  gross: number | undefined
  t: number
  ratio: number | undefined
  margin: number | undefined
  contents: 'named' | 'doubtful'
}

/** What one cylinder may hold, what is in it, and how full it is. */
export function oneCylinder(
  { refrigerant, wc, tare, gross, t, ratio, margin, contents }: Given,
  { reading, fillMarginPct }: Surroundings,
): Answer {
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
      refrigerant: contents === 'doubtful' ? null : refrigerant,
      tareMg: (tare ?? 0) * MG_PER_KG,
      waterCapacityMg: wc * MG_PER_KG,
      marginPct: marginShare * 100,
      fillingRatio: contents === 'doubtful' ? null : (ratio ?? null),
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
    nowKg === undefined ? undefined : onField('t', () => liquidLevel(nowKg, volumeM3, refrigerant, t))
  const level55 = nowKg === undefined ? undefined : level(nowKg, at55)
  const headroom = nowKg === undefined ? undefined : netKg - nowKg
  const working: Step[] = [
    {
      what: 'Inner volume',
      put: `WC / 0.9982 kg/L = ${say('weight', wc)} / 0.9982`,
      gives: say('capacity', volumeM3),
    },
    ...limit.rules.map((rule) => ({
      what: ruleWords(rule.rule),
      put: putIn(
        rule.rule,
        { wc, volumeM3, refrigerant: contents === 'doubtful' ? null : refrigerant, ratio },
        say,
      ),
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
                reasons: [`${ruleWords(limit.governs)} governs.`],
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
          ruleWords(r.rule),
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
  }
}

function putIn(
  rule: FillRuleCode,
  {
    wc,
    volumeM3,
    refrigerant,
    ratio,
  }: { wc: number; volumeM3: number; refrigerant: string | null; ratio: number | undefined },
  say: ReturnType<typeof sayIn>,
): string {
  const density = (celsius: number) => {
    if (refrigerant === null) return 'the lightest liquid of all'
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
