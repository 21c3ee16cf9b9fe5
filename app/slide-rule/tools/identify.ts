import { airShare, type Candidate, identify } from '#core/identity'
import { refrigerant as factsOf } from '#core/refrigerants'
import { formatAbsolutePressure } from '#core/units'
import { ALTITUDE, maybeGas, measure, usually } from '../fields'
import { typedText } from '../kinds'
import type { Judgement } from '../outcome'
import { LOCAL_RULES, Refusal, sayIn, tool } from '../tool'
import { TABLE_SOURCE } from './sources'

const percent = (share: number) => `${(share * 100).toFixed(share < 0.1 ? 1 : 0)} %`
const SHOWN = 8

export default tool({
  name: 'identify',
  title: 'What is in it',
  question: 'A vessel at rest: which refrigerant is it, and is air in it?',
  inputs: {
    p: measure('pressure', 'Pressure of the vessel'),
    t: measure('temperature', 'Temperature of its liquid', {
      help: 'At rest in the shade for an hour; clamp low, where the liquid is.',
    }),
    expected: maybeGas('It should be', 'From the label or the plate; air is told against it.'),
    gauge: usually('pressure-difference', 'Gauge is good to, plus or minus', 35_000, {
      aside: true,
      least: 10,
      most: 1e6,
      help: '1 % of full scale: 0.35 bar (5 psi) for a gauge to 35 bar.',
    }),
    clamp: usually('difference', 'Clamp is good to, plus or minus', 1, {
      aside: true,
      least: 0.05,
      most: 10,
    }),
    altitude: ALTITUDE,
  },
  example: { p: '9.5 bar', t: '25 C', expected: 'R-22', gauge: '0.1 bar' },
  work({ p, t, expected, gauge, clamp }, { reading }) {
    const say = sayIn(reading)
    const found = identify({ pressurePa: p, tempK: t, gaugePa: gauge, clampK: clamp })
    if (found.length === 0)
      throw new Refusal({
        t: `No table of Keg’s reaches ${say('temperature', t)}: measure again between −55 and +90 °C.`,
      })
    const fits = found.filter((c) => c.fit === 'fits')
    const own = expected ? found.find((c) => c.code === expected) : undefined
    if (expected && !own)
      throw new Refusal({
        t: `${expected} has no liquid, or no table, at ${say('temperature', t)}: measure colder, or leave the expectation out.`,
      })
    const sigmaPa = own?.sigmaPa ?? 0
    const air = own && own.fit === 'above' ? airShare(p, own.saturationPa, sigmaPa) : undefined
    const listed = (fits.length > 0 ? fits : found.slice(0, 4)).slice(0, SHOWN)
    return {
      hero: own ? heroExpected(own, fits, air) : heroOpen(fits),
      judgement: judge(own, fits, air, say),
      figures: own
        ? [
            {
              name: 'saturation_pressure',
              label: `${own.code} would show`,
              kind: 'pressure',
              value: own.saturationPa,
              range: { least: own.saturationPa - 2 * sigmaPa, most: own.saturationPa + 2 * sigmaPa },
            },
            {
              name: 'excess',
              label: 'Above saturation',
              kind: 'pressure-difference',
              value: p - own.saturationPa,
            },
            ...(air
              ? [
                  {
                    name: 'air_of_vapour',
                    label: 'Air, share of the vapour',
                    kind: 'share' as const,
                    value: air.ofVapour,
                    range: {
                      least: Math.max(0, air.airPa - 2 * sigmaPa) / p,
                      most: (air.airPa + 2 * sigmaPa) / p,
                    },
                  },
                ]
              : []),
          ]
        : [],
      data: {
        candidates: fits.map(({ code, likelihood, saturationPa, differenceK }) => ({
          code,
          likelihood,
          saturation_Pa_abs: saturationPa,
          difference_K: differenceK ?? null,
        })),
      },
      working: [
        {
          what: 'Pressure, absolute',
          put: `${say('pressure', p)} on the gauge`,
          gives: `${formatAbsolutePressure(p, reading.units.pressure)}`,
        },
        {
          what: 'Standard deviations',
          put: `limits of error / √3: ${say('pressure-difference', gauge)} and ${say('difference', clamp)}`,
          gives: `${say('pressure-difference', gauge / Math.sqrt(3))} and ${say('difference', clamp / Math.sqrt(3))}`,
        },
        ...listed.slice(0, 4).map((c) => ({
          what: c.code,
          put: `bubble pressure at ${say('temperature', t)} is ${say('pressure', c.saturationPa)}; measured − bubble = ${say('pressure-difference', p - c.saturationPa)}`,
          gives: `${c.deviations.toFixed(1).replace('-', '−')} standard deviations: ${c.fit === 'fits' ? 'fits' : c.fit === 'above' ? 'too much pressure' : 'too little pressure'}`,
        })),
        ...(air
          ? [
              {
                what: 'Air',
                put: `(p − bubble) / p = ${say('pressure-difference', air.airPa)} / ${formatAbsolutePressure(p, reading.units.pressure)}`,
                gives: `${percent(air.ofVapour)} of the vapour`,
              },
            ]
          : []),
      ],
      uncertainty: [
        'A candidate lies within two standard deviations of gauge and clamp together; its likelihood is its share among the candidates, all held equally likely beforehand.',
        ...(air
          ? [
              `Air is the share of the moles of the vapour, not of all that is in the vessel: where the vessel is half full of liquid the share of everything is many times smaller.`,
            ]
          : []),
      ],
      source: [
        TABLE_SOURCE,
        'Limits of error as rectangular distributions: guide to the expression of uncertainty in measurement.',
      ],
      caution: [
        'Sun on one side, or a cylinder just filled, looks like air: shade, wait, measure again.',
        'Never take an unknown gas into a clean cylinder.',
        LOCAL_RULES,
      ],
      unknown: [
        'Mixtures: two gases together can imitate a third.',
        'What gases without a table would show.',
        'When no liquid is left, the pressure says nothing about which gas it is.',
      ],
      tables: [
        {
          title: fits.length > 0 ? 'It could be' : 'Nearest, though none fits',
          head: ['Refrigerant', 'Bubble pressure then', 'Saturation − clamp', 'Likelihood', 'Class'],
          rows: listed.map((c) => [
            c.code,
            say('pressure', c.saturationPa),
            c.differenceK === undefined ? '' : say('difference', c.differenceK),
            c.fit === 'fits'
              ? percent(c.likelihood)
              : c.fit === 'above'
                ? 'only with air'
                : 'only without liquid',
            factsOf(c.code).safetyClass,
          ]),
        },
      ],
      carry: [
        { line: `p cyl ${typedText('pressure', p, reading)}`, words: 'Note the pressure' },
        { line: `t cyl ${typedText('temperature', t, reading)}`, words: 'Note the temperature' },
      ],
    }
  },
})

type Air = ReturnType<typeof airShare> | undefined

function heroOpen(fits: Candidate[]) {
  if (fits.length === 0)
    return { label: 'It could be', text: 'none of the tables', beside: 'not with liquid in it and no air' }
  return {
    label: fits.length === 1 ? 'Only one fits' : `${fits.length} fit`,
    text:
      fits
        .slice(0, 3)
        .map((c) => c.code)
        .join(', ') + (fits.length > 3 ? ' …' : ''),
    beside: fits.length === 1 ? 'of those with a table' : 'pressure and temperature cannot tell them apart',
  }
}

function heroExpected(own: Candidate, fits: Candidate[], air: Air) {
  if (air)
    return {
      label: `${own.code}: air in it, or another gas`,
      text: percent(air.ofVapour),
      beside: 'of the vapour would be air',
    }
  if (own.fit === 'below')
    return { label: own.code, text: 'no liquid left', beside: 'or another gas: pressure alone cannot say' }
  return {
    label: 'It agrees with',
    text: own.code,
    beside: fits.length > 1 ? `and with ${fits.length - 1} more` : 'and with no other table',
  }
}

function judge(
  own: Candidate | undefined,
  fits: Candidate[],
  air: Air,
  say: ReturnType<typeof sayIn>,
): Judgement {
  const others = fits.filter((c) => c.code !== own?.code).map((c) => c.code)
  const tell = 'A refrigerant identifier, the plate, and who filled it last can tell.'
  if (air)
    return {
      outcome: 'caution',
      words: `More pressure than ${own!.code} can have`,
      reasons: [
        `${say('pressure-difference', air.airPa)} too much at this temperature: air, or another gas.`,
        ...(others.length > 0 ? [`As it stands it would be ${others.slice(0, 4).join(', ')}.`] : []),
        'Wait in the shade and measure again before believing it.',
      ],
    }
  if (own?.fit === 'below')
    return {
      outcome: 'open',
      words: 'No liquid left, or another gas',
      reasons: [
        `Below the saturation pressure of ${own.code}: vapour alone says nothing about which gas it is.`,
        'Weigh it: a vessel with liquid in it is heavier than its vapour.',
      ],
    }
  if (own)
    return {
      outcome: others.length > 0 ? 'open' : 'good',
      words: others.length > 0 ? `It may well be ${own.code}` : `It agrees with ${own.code} alone`,
      reasons:
        others.length > 0
          ? [
              `${others.slice(0, 5).join(', ')} would show the same: these readings cannot tell them apart.`,
              tell,
            ]
          : ['No other table fits, and there is no sign of air.'],
    }
  if (fits.length === 0)
    return {
      outcome: 'caution',
      words: 'No table fits',
      reasons: [
        'Air in it, no liquid left, a mixture, a gas without a table, or a vessel that was not at rest.',
        tell,
      ],
    }
  return fits.length === 1
    ? {
        outcome: 'good',
        words: `Only ${fits[0]!.code} fits`,
        reasons: ['If liquid is in it, no air, and one of the gases with a table.'],
      }
    : { outcome: 'open', words: 'These readings cannot tell them apart', reasons: [tell] }
}
