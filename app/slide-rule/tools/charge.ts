import { chargeByVacuumKg, chargeToleranceMg, cylinderHeelKg, stopWeightMg } from '#core/charging'
import { tubeVolumeM3 } from '#core/hoses'
import { liquidDensity, refrigerant as factsOf, tableOf } from '#core/refrigerants'
import { MG_PER_KG, ZERO_CELSIUS_K } from '#core/units'
import { choice, gas, maybe, measure, usually } from '../fields'
import type { Figure, Judgement } from '../outcome'
import { LOCAL_RULES, onField, Refusal, sayIn, tool } from '../tool'
import { HOSE, hoseTube } from './hose-inputs'
import { TABLE_SOURCE } from './sources'

export default tool({
  name: 'charge',
  title: 'Charge',
  question: 'At which weight do I stop, and will it all come out of this cylinder?',
  inputs: {
    refrigerant: gas(),
    target: measure('weight', 'To go in', { least: 0.001, most: 20_000 }),
    trade: choice('It is', { stationary: 'a stationary system', vehicle: 'a vehicle' }),
    start: maybe('weight', 'On the scale before', {
      least: 0,
      most: 40_000,
      help: 'Gross; or leave it empty when the scale is zeroed with the cylinder on it.',
    }),
    keeps: choice('Liquid left in the hose is', {
      swallowed: 'swallowed by the running system',
      stays: 'not swallowed: it stays in the hose',
    }),
    size: HOSE.size,
    length: HOSE.length,
    net: maybe('weight', 'In the cylinder, net', { least: 0, most: 20_000 }),
    cylinder: maybe('capacity', 'Inner volume of the cylinder', {
      least: 1e-4,
      most: 5,
      help: '13.4 L for the usual one-way cylinder; water capacity / 0.9982 for others.',
    }),
    tc: usually('temperature', 'Temperature of the cylinder', 25 + ZERO_CELSIUS_K),
    ts: usually('temperature', 'Temperature of the system', 25 + ZERO_CELSIUS_K),
    system: maybe('capacity', 'Inner volume of the system', {
      least: 1e-4,
      most: 20,
      help: 'For how much the vacuum alone draws.',
    }),
  },
  example: {
    refrigerant: 'R-410A',
    target: '3 kg',
    start: '21.4 kg',
    keeps: 'stays',
    net: '9 kg',
    cylinder: '11.9 L',
    system: '14 L',
  },
  work(
    { refrigerant, target, trade, start, keeps, size, length, net, cylinder, tc, ts, system },
    { reading },
  ) {
    const say = sayIn(reading)
    const table = tableOf(refrigerant)
    const { molarMassG, flammable, safetyClass } = factsOf(refrigerant)
    const volumeM3 = tubeVolumeM3(hoseTube({ size, bore: undefined, length }))
    const liquid = onField('ts', () => liquidDensity(table, ts))
    const keepKg = keeps === 'stays' ? volumeM3 * liquid : 0
    const toleranceKg = chargeToleranceMg(target * MG_PER_KG, trade) / MG_PER_KG
    const stopKg = stopWeightMg((start ?? 0) * MG_PER_KG, target * MG_PER_KG, keepKg * MG_PER_KG) / MG_PER_KG
    if (start !== undefined && stopKg < 0)
      throw new Refusal({
        start:
          'The whole cylinder weighs less than what is to go in: check the weight, or leave it empty for a zeroed scale.',
      })
    const heelKg =
      cylinder === undefined ? undefined : onField('tc', () => cylinderHeelKg(table, cylinder, tc))
    const usableKg = net === undefined || heelKg === undefined ? undefined : Math.max(0, net - heelKg)
    const virginKg = usableKg === undefined ? undefined : Math.max(0, target + keepKg - usableKg)
    const vacuum =
      system === undefined
        ? undefined
        : onField('tc', () =>
            chargeByVacuumKg(
              { systemM3: system, systemK: ts, cylinderK: tc, availableKg: usableKg ?? Infinity },
              table,
              molarMassG,
            ),
          )
    const mostOpen = vacuum !== undefined && !Number.isFinite(vacuum.mostKg)
    const over = vacuum !== undefined && vacuum.mostKg > target + toleranceKg
    const figures: Figure[] = [
      { name: 'stop_weight', label: 'Stop weight', kind: 'weight', value: stopKg },
      { name: 'tolerance', label: 'May be off by', kind: 'weight', value: toleranceKg },
      { name: 'hose_keeps', label: 'The hose keeps', kind: 'weight', value: keepKg },
      ...(heelKg === undefined
        ? []
        : [
            {
              name: 'cylinder_heel',
              label: 'Stays in the cylinder as vapour',
              kind: 'weight' as const,
              value: heelKg,
            },
          ]),
      ...(usableKg === undefined
        ? []
        : [{ name: 'usable', label: 'Comes out without warming', kind: 'weight' as const, value: usableKg }]),
      ...(virginKg === undefined
        ? []
        : [{ name: 'virgin', label: 'To top up with virgin', kind: 'weight' as const, value: virginKg }]),
      ...(vacuum === undefined
        ? []
        : [
            {
              name: 'by_vacuum',
              label: 'By the vacuum alone, at least',
              kind: 'weight' as const,
              value: vacuum.leastKg,
              ...(mostOpen ? {} : { range: { least: vacuum.leastKg, most: vacuum.mostKg } }),
            },
          ]),
    ]
    return {
      hero: {
        label: start === undefined ? 'Stop when the zeroed scale shows' : 'Stop when the scale shows',
        text: say('weight', stopKg),
        beside: `${say('weight', target)} in the system, ± ${say('weight', toleranceKg)}`,
      },
      ...(virginKg === undefined ? {} : { judgement: enough(virginKg, toleranceKg, say) }),
      figures,
      working: [
        {
          what: 'The hose keeps',
          put:
            keeps === 'stays'
              ? `π/4 d² l × liquid: ${(volumeM3 * 1e6).toFixed(0)} mL × ${say('density', liquid)}`
              : 'swallowed afterwards',
          gives: say('weight', keepKg),
        },
        {
          what: 'Stop weight',
          put: `start − target − hose = ${say('weight', start ?? 0)} − ${say('weight', target)} − ${say('weight', keepKg)}`,
          gives: say('weight', stopKg),
        },
        {
          what: 'Tolerance',
          put:
            target < 0.5
              ? 'charges under 500 g: the larger of 2 % and 2 g'
              : trade === 'vehicle'
                ? 'vehicles: 15 g'
                : 'the larger of 1 % and 15 g',
          gives: say('weight', toleranceKg),
        },
        ...(heelKg === undefined
          ? []
          : [
              {
                what: 'Stays in the cylinder',
                put: `V ρ(vapour) = ${say('capacity', cylinder!)} at ${say('temperature', tc)}`,
                gives: say('weight', heelKg),
              },
            ]),
        ...(usableKg === undefined
          ? []
          : [
              {
                what: 'Comes out',
                put: `${say('weight', net!)} − ${say('weight', heelKg!)}`,
                gives: say('weight', usableKg),
              },
            ]),
        ...(vacuum === undefined
          ? []
          : [
              {
                what: 'By the vacuum alone',
                put: 'between three quarters of the vapour that fills the system at the cylinder’s pressure, and a multiple of it that grows as the cylinder is warmer than the system',
                gives: mostOpen
                  ? `${say('weight', vacuum.leastKg)} or more, without end`
                  : say.range('weight', vacuum.leastKg, vacuum.mostKg),
              },
            ]),
      ],
      uncertainty: [
        'What the vacuum draws is a range from a plausible plant model that is not validated against measurements: plan with its lower end, and fear its upper one.',
        'The heel is vapour only; liquid below the end of the tube comes on top.',
      ],
      source: [
        'Tolerance: the plate’s, else practice: vehicles ±15 g, stationary the larger of 1 % and 15 g.',
        TABLE_SOURCE,
      ],
      caution: [
        ...(over
          ? [
              'By pressure alone more can flow in than is wanted: watch the stop weight from the first second.',
            ]
          : [
              'Watch the stop weight from the first second. A scale that stands still does not mean that the target is reached.',
            ]),
        ...(flammable
          ? [`${refrigerant} burns (${safetyClass}): rated equipment, no sparks, ventilate.`]
          : []),
        'Warm a cylinder in water of 40 °C, never above 50, never with a flame. Never liquid into the compressor.',
        LOCAL_RULES,
      ],
      unknown: ['How fast the system condenses what comes in: a fan that runs makes a difference of half.'],
      carry: [
        {
          line: `note Stop charging at ${say('weight', stopKg)} on the scale (${say('weight', target)} ± ${say('weight', toleranceKg)}).`,
          words: 'Note the stop weight',
        },
      ],
    }
  },
})

function enough(virginKg: number, toleranceKg: number, say: ReturnType<typeof sayIn>): Judgement {
  if (virginKg <= toleranceKg)
    return {
      outcome: 'good',
      words: 'This cylinder has enough',
      reasons: ['The rest of it stays behind as vapour.'],
    }
  return {
    outcome: 'caution',
    words: `${say('weight', virginKg)} will not come out of it`,
    reasons: ['Warm the cylinder in water of 40 °C, or top up with virgin. Say so beforehand.'],
  }
}
