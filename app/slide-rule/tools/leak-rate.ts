import { co2EquivalentT, euCheckRule, leakRate, type LeakUse, slowLeak, usLeakRule } from '#core/leaks'
import { refrigerant as factsOf } from '#core/refrigerants'
import { choice, flag, gas, maybe, maybeDay, measure, rows } from '../fields'
import type { Judgement } from '../outcome'
import { LOCAL_RULES, Refusal, sayIn, TEXT_IN_FORCE, tool } from '../tool'

const DAY_MS = 86_400_000
const percent = (share: number) => `${(share * 100).toFixed(1)} %`
const USE_WORDS: Record<LeakUse, string> = {
  comfort: 'comfort cooling',
  commercial: 'commercial refrigeration',
  process: 'industrial process',
}

export default tool({
  name: 'leak-rate',
  title: 'Leak rate',
  question: 'How fast does it leak, and what does the law want?',
  inputs: {
    refrigerant: gas(),
    full: measure('weight', 'Full charge', { least: 0.001, most: 100_000 }),
    add: rows('Refrigerant added', 5, 'mass', {
      mass: measure('weight', 'Added', { least: 0.001, most: 100_000 }),
      on: maybeDay('On'),
    }),
    since: maybe('days', 'Since the charge before the first of these', {
      least: 1,
      most: 20_000,
      help: 'When only one addition is known.',
    }),
    lost: maybe('weight', 'Or: found missing', {
      least: 0.001,
      most: 100_000,
      help: 'A slow leak: what was missing, and since when.',
    }),
    over: maybe('days', 'Over', { least: 1, most: 20_000 }),
    use: choice<LeakUse>('Used for', {
      commercial: USE_WORDS.commercial,
      comfort: USE_WORDS.comfort,
      process: USE_WORDS.process,
    }),
    profile: choice('Rule profile', { us: 'United States', eu: 'European Union' }),
    hermetic: flag('Hermetically sealed and labelled so'),
    detection: flag('Leak detection is fitted'),
  },
  example: {
    refrigerant: 'R-404A',
    full: '18 kg',
    add_1_mass: '2.4 kg',
    since: '210 days',
    use: 'commercial',
    profile: 'eu',
  },
  work({ refrigerant, full, add, since, lost, over, use, profile, hermetic, detection }, { reading, today }) {
    const say = sayIn(reading)
    const { gwp } = factsOf(refrigerant)
    if ((lost === undefined) !== (over === undefined))
      throw new Refusal(
        lost === undefined
          ? { lost: 'Enter how much was missing over that time.' }
          : { over: 'Enter over how many days it went missing.' },
      )
    if (lost !== undefined && lost > full)
      throw new Refusal({ lost: 'More than the full charge cannot be missing: check both figures.' })
    const additions = add.map(({ mass, on: day, row }) => {
      const daysAgo = day === undefined ? 0 : Math.round((Date.parse(today) - Date.parse(day)) / DAY_MS)
      if (day === undefined && add.length > 1)
        throw new Refusal({
          [`add_${row}_on`]: 'Enter the day of each addition: the rate depends on the time between them.',
        })
      if (daysAgo < 0)
        throw new Refusal({
          [`add_${row}_on`]: 'That day is still to come: enter the day on which it was added.',
        })
      return { massKg: mass, daysAgo }
    })
    const rate = leakRate(full, additions, since)
    const slow = lost === undefined ? undefined : slowLeak(full, lost, over!)
    const share = slow?.share ?? rate.annualised ?? (additions.length > 0 ? rate.rolling : undefined)
    const us = usLeakRule(refrigerant, full, use)
    const eu = euCheckRule(refrigerant, full, { hermetic, detection })
    const co2T = co2EquivalentT(full, gwp)
    const daysToTrigger = share === undefined || share <= 0 ? undefined : (us.trigger / share) * 365
    return {
      hero:
        share === undefined
          ? {
              label: `${say('weight', full)} of ${refrigerant}`,
              text: `${co2T.toFixed(2)} t CO₂e`,
              beside: 'add what was topped up, and when, for a rate',
            }
          : {
              label: slow
                ? 'Slow leak'
                : rate.annualised === undefined
                  ? 'Rolling over a year'
                  : 'Annualised',
              text: `${percent(share)} a year`,
              beside: slow ? `${say('weight', slow.kgPerYear)} a year` : `rolling: ${percent(rate.rolling)}`,
            },
      judgement: profile === 'us' ? judgeUs(us, share, use, say, daysToTrigger) : judgeEu(eu),
      figures: [
        ...(rate.annualised === undefined
          ? []
          : [{ name: 'annualised', label: 'Annualised', kind: 'share' as const, value: rate.annualised }]),
        ...(additions.length === 0
          ? []
          : [{ name: 'rolling', label: 'Rolling, 365 days', kind: 'share' as const, value: rate.rolling }]),
        ...(slow
          ? [
              {
                name: 'slow_leak',
                label: 'Slow leak, a year',
                kind: 'weight' as const,
                value: slow.kgPerYear,
              },
              {
                name: 'slow_share',
                label: 'Slow leak, share a year',
                kind: 'share' as const,
                value: slow.share,
              },
            ]
          : []),
        { name: 'co2_equivalent_t', label: 'Full charge, t CO₂e', kind: 'number', value: co2T },
        ...(share === undefined
          ? []
          : [
              {
                name: 'co2_per_year_t',
                label: 'Lost a year, t CO₂e',
                kind: 'number' as const,
                value: co2EquivalentT(share * full, gwp),
              },
            ]),
        ...(daysToTrigger === undefined || profile === 'eu'
          ? []
          : [
              {
                name: 'days_to_trigger',
                label: `From full to the ${percent(us.trigger)} trigger`,
                kind: 'days' as const,
                value: daysToTrigger,
              },
            ]),
      ],
      data: {
        us: { applies: us.applies, why: us.why, trigger: us.trigger, from_kg: us.fromKg ?? null },
        eu: { every_months: eu.intervalMonths ?? null, by: eu.by },
        gwp,
      },
      working: [
        ...(rate.annualised === undefined
          ? []
          : [
              {
                what: 'Annualised',
                put: `added / full × 365 / days = ${say('weight', additions.reduce((a, b) => (b.daysAgo < a.daysAgo ? b : a)).massKg)} / ${say('weight', full)} × 365 / ${Math.round(rate.overDays!)}`,
                gives: percent(rate.annualised),
              },
            ]),
        ...(additions.length === 0
          ? []
          : [
              {
                what: 'Rolling',
                put: `added in 365 days / full = ${say('weight', rate.addedInYearKg)} / ${say('weight', full)}`,
                gives: percent(rate.rolling),
              },
            ]),
        ...(slow
          ? [
              {
                what: 'Slow leak',
                put: `${say('weight', lost!)} / ${say('weight', full)} × 365 / ${Math.round(over!)}`,
                gives: `${percent(slow.share)} a year = ${say('weight', slow.kgPerYear)} a year`,
              },
            ]
          : []),
        {
          what: 'CO₂ equivalent',
          put: `${say('weight', full)} × GWP ${gwp.toFixed(0)} / 1000`,
          gives: `${co2T.toFixed(2)} t`,
        },
        ...(daysToTrigger === undefined || profile === 'eu'
          ? []
          : [
              {
                what: 'Time to the trigger',
                put: `${percent(us.trigger)} / ${percent(share!)} × 365`,
                gives: `${Math.round(daysToTrigger)} days from full`,
              },
            ]),
      ],
      uncertainty: [
        'Additions are weighed to about 30 g; how full it was before is usually not known: one addition alone can mislead by half.',
      ],
      source: [
        profile === 'us'
          ? `40 CFR 82.157 and 84.106. ${TEXT_IN_FORCE}`
          : `Regulation (EU) 2024/573. ${TEXT_IN_FORCE}`,
        'GWP over 100 years from the composition, fourth assessment report.',
      ],
      caution: ['Both profiles change, and have exemptions.', LOCAL_RULES],
      unknown: ['Additions nobody wrote down.', 'A leak that is not steady.'],
      carry:
        share === undefined
          ? []
          : [{ line: `note Leak rate ${percent(share)} a year.`, words: 'Note the leak rate' }],
    }
  },
})

function judgeUs(
  us: ReturnType<typeof usLeakRule>,
  share: number | undefined,
  use: LeakUse,
  say: ReturnType<typeof sayIn>,
  days: number | undefined,
): Judgement {
  const from = us.fromKg === undefined ? '' : ` from ${say('weight', us.fromKg)}`
  if (!us.applies)
    return {
      outcome: 'open',
      words: 'The federal repair rule does not bind this charge',
      reasons: [
        us.why === 'low-gwp'
          ? 'Its warming potential is 53 or less, and it does not deplete ozone.'
          : `It binds charges${from} of such gases.`,
        'A leak is worth finding all the same.',
      ],
    }
  if (share === undefined)
    return {
      outcome: 'open',
      words: 'The repair rule binds this charge',
      reasons: [`Trigger for ${USE_WORDS[use]}: ${percent(us.trigger)} a year.`],
    }
  if (share > us.trigger)
    return {
      outcome: 'bad',
      words: 'Above the trigger: it must be repaired',
      reasons: [`${percent(share)} a year, and ${percent(us.trigger)} is the trigger for ${USE_WORDS[use]}.`],
    }
  return {
    outcome: share > us.trigger / 2 ? 'caution' : 'good',
    words: 'Below the trigger',
    reasons: [
      `Trigger for ${USE_WORDS[use]}: ${percent(us.trigger)} a year.`,
      ...(days === undefined ? [] : [`At this rate that much is gone after ${Math.round(days)} days.`]),
    ],
  }
}

function judgeEu(eu: ReturnType<typeof euCheckRule>): Judgement {
  if (eu.by === 'none')
    return {
      outcome: 'open',
      words: 'No leak checks by this rule',
      reasons: ['It is no listed fluorinated gas, or another regulation rules it.'],
    }
  if (eu.intervalMonths === undefined)
    return {
      outcome: 'good',
      words: 'No regular leak checks by this rule',
      reasons: [
        `${eu.by === 'co2' ? `${eu.co2T.toFixed(2)} t CO₂ equivalent` : 'The charge'} is below the first threshold.`,
      ],
    }
  return {
    outcome: 'caution',
    words: `A leak check every ${eu.intervalMonths} months`,
    reasons: [
      eu.by === 'co2'
        ? `${eu.co2T.toFixed(1)} t CO₂ equivalent; thresholds at 5 (hermetic 10), 50 and 500 t.`
        : 'Listed olefin: thresholds at 1, 10 and 100 kg.',
      'And after every repair of a leak, within a month.',
    ],
  }
}
