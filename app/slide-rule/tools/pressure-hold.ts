import { judgePressureHold } from '#core/leaks'
import { ALTITUDE, maybe, measure, usually } from '../fields'
import { judgementOf } from '../judgement'
import { LOCAL_RULES, sayIn, tool } from '../tool'

export default tool({
  name: 'pressure-hold',
  title: 'Pressure hold',
  question: 'Nitrogen stood on it: is it a leak, or only the temperature?',
  inputs: {
    p1: measure('pressure', 'Pressure at the beginning', { least: 110_000, most: 1e7 }),
    t1: measure('temperature', 'Temperature at the beginning'),
    p2: measure('pressure', 'Pressure at the end', { most: 1e7 }),
    t2: measure('temperature', 'Temperature at the end'),
    held: measure('duration', 'Held for', { least: 60, most: 30 * 86_400 }),
    gauge: usually('pressure-difference', 'Gauge repeats to, plus or minus', 5_000, {
      aside: true,
      least: 1,
      most: 1e6,
      help: 'The same gauge read twice: its last digit, or half a division.',
    }),
    clamp: usually('difference', 'Clamp repeats to, plus or minus', 0.5, {
      aside: true,
      least: 0.01,
      most: 20,
    }),
    volume: maybe('capacity', 'Inner volume of the system', { least: 1e-5, most: 50 }),
    altitude: ALTITUDE,
  },
  example: { p1: '24 bar', t1: '25 C', p2: '23.1 bar', t2: '15 C', held: '12 h', volume: '14 L' },
  work({ p1, t1, p2, t2, held, gauge, clamp, volume }, { reading }) {
    const say = sayIn(reading)
    const found = judgePressureHold({
      startPa: p1,
      endPa: p2,
      startK: t1,
      endK: t2,
      heldS: held,
      gaugePa: gauge,
      clampK: clamp,
      ...(volume === undefined ? {} : { volumeM3: volume }),
    })
    const perDay = found.smallestPaPerS * 86_400
    const beyond = Math.abs(found.changePa) <= 2 * found.sigmaPa
    const judgement = judgementOf(
      found.verdict,
      `The smallest leak this test could have seen: ${say('pressure-difference', perDay)} a day${beyond ? '; a smaller one would look just like this' : ''}.`,
    )
    return {
      hero: {
        label: 'Temperature alone makes it',
        text: say('pressure', found.expectedPa),
        beside: `read: ${say('pressure', p2)}, that is ${say('pressure-difference', found.changePa)} (± ${say('pressure-difference', 2 * found.sigmaPa)})`,
      },
      judgement,
      figures: [
        {
          name: 'expected',
          label: 'Expected without a leak',
          kind: 'pressure',
          value: found.expectedPa,
          range: { least: found.expectedPa - 2 * found.sigmaPa, most: found.expectedPa + 2 * found.sigmaPa },
        },
        {
          name: 'change',
          label: 'Measured less expected',
          kind: 'pressure-difference',
          value: found.changePa,
        },
        {
          name: 'by_temperature',
          label: 'By temperature alone',
          kind: 'pressure-difference',
          value: found.expectedPa - p1,
        },
        {
          name: 'smallest_loss_per_day',
          label: 'Smallest loss it could see, a day',
          kind: 'pressure-difference',
          value: perDay,
        },
        ...(found.smallestLeakPaM3s === undefined
          ? []
          : [
              {
                name: 'smallest_leak_Pa_L_s',
                label: 'As a leak, Pa·L/s',
                kind: 'number' as const,
                value: found.smallestLeakPaM3s * 1000,
              },
            ]),
      ],
      working: [
        {
          what: 'Expected',
          put: `p₁ · T₂/T₁ = ${(p1 / 1e5).toFixed(3)} bar abs × ${t2.toFixed(2)} K / ${t1.toFixed(2)} K`,
          gives: `${(found.expectedPa / 1e5).toFixed(3)} bar abs`,
        },
        {
          what: 'Measured − expected',
          put: `${(p2 / 1e5).toFixed(3)} − ${(found.expectedPa / 1e5).toFixed(3)} bar`,
          gives: say('pressure-difference', found.changePa),
        },
        {
          what: 'Its standard deviation',
          put: `gauge and clamp at both ends, limits / √3, as squares`,
          gives: say('pressure-difference', found.sigmaPa),
        },
        {
          what: 'Smallest leak to be seen',
          put: `2 × that / ${say('duration', held)}`,
          gives: `${say('pressure-difference', perDay)} a day`,
        },
      ],
      uncertainty: [
        'Judged beyond two standard deviations only. The same gauge and clamp at both ends is assumed: what counts is how well they repeat, not how right they are.',
      ],
      source: ['Ideal gas law in a closed volume; nitrogen follows it within 0.3 % for such changes.'],
      caution: [
        'Nitrogen only with a regulator, never above the test pressure on the plate. Never oxygen or shop air: with oil they explode.',
        LOCAL_RULES,
      ],
      unknown: [
        'Whether the whole system had the clamp’s temperature: sun on a roof and a cold cellar do not average.',
      ],
      carry: [
        {
          line: `note Nitrogen hold ${say('duration', held)}: ${say('pressure', p1)} at ${say('temperature', t1)} to ${say('pressure', p2)} at ${say('temperature', t2)}. ${judgement.words}.`,
          words: 'Note the hold and its verdict',
        },
      ],
    }
  },
})
