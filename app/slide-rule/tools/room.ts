import { refrigerant as factsOf } from '#core/refrigerants'
import { roomCheck } from '#core/site'
import { gas, maybe, measure, usually } from '../fields'
import { judgementOf } from '../judgement'
import { LOCAL_RULES, Refusal, sayIn, tool } from '../tool'

export default tool({
  name: 'room',
  title: 'Room check',
  question: 'If it all leaked into this room, could it burn?',
  inputs: {
    refrigerant: gas(),
    charge: measure('weight', 'Charge', { least: 0.001, most: 10_000 }),
    volume: maybe('room', 'Volume of the room', { least: 0.5, most: 1e6 }),
    area: maybe('area', 'Or its floor', { least: 0.2, most: 1e5 }),
    height: usually('length', 'and its height', 2.4, { least: 0.5, most: 50 }),
    alarm: usually('share', 'Alarm at this share of the lower limit', 0.2, {
      aside: true,
      least: 0.05,
      most: 0.25,
    }),
  },
  example: { refrigerant: 'R-290', charge: '150 g', volume: '30 m3' },
  work({ refrigerant, charge, volume, area, height, alarm }, { reading }) {
    const say = sayIn(reading)
    if (volume === undefined && area === undefined)
      throw new Refusal({ volume: 'Enter the volume of the room, or its floor and height.' })
    const roomM3 = volume ?? area! * height
    const { safetyClass, lowerFlammableLimit } = factsOf(refrigerant)
    const found = roomCheck(refrigerant, charge, roomM3, alarm)
    const percent = (share: number) => `${(share * 100).toFixed(share < 0.1 ? 1 : 0)} %`
    return {
      hero:
        found.ofLowerLimit === undefined
          ? {
              label: 'Of the lower flammable limit',
              text: 'no figure',
              beside: `${refrigerant} is of class ${safetyClass}`,
            }
          : {
              label: 'Of the lower flammable limit',
              text: percent(found.ofLowerLimit),
              beside:
                refrigerant === 'R-717'
                  ? `${Math.round(found.ppm)} ppm, and 320 are the limit`
                  : `alarm at ${percent(alarm)}`,
            },
      judgement: judgementOf(found.verdict),
      figures: [
        {
          name: 'concentration_g_m3',
          label: 'Concentration, g/m³',
          kind: 'number',
          value: found.kgPerM3 * 1000,
        },
        { name: 'concentration_ppm', label: 'Concentration, ppm', kind: 'number', value: found.ppm },
        ...(found.ofLowerLimit === undefined
          ? []
          : [
              {
                name: 'of_lower_limit',
                label: 'Of the lower flammable limit',
                kind: 'share' as const,
                value: found.ofLowerLimit,
              },
            ]),
        ...(found.largestKg === undefined
          ? []
          : [
              {
                name: 'largest_charge',
                label: 'Largest charge below the alarm',
                kind: 'weight' as const,
                value: found.largestKg,
              },
            ]),
      ],
      data: {
        safety_class: safetyClass,
        lower_flammable_limit_kg_m3: lowerFlammableLimit ?? null,
        verdict_code: found.verdict.code,
      },
      working: [
        ...(volume === undefined
          ? [
              {
                what: 'Room',
                put: `${say('area', area!)} × ${say('length', height)}`,
                gives: say('room', roomM3),
              },
            ]
          : []),
        {
          what: 'Concentration',
          put: `${say('weight', charge)} / ${say('room', roomM3)}`,
          gives: `${(found.kgPerM3 * 1000).toPrecision(3)} g/m³ = ${Math.round(found.ppm)} ppm`,
        },
        ...(lowerFlammableLimit === undefined
          ? []
          : [
              {
                what: 'Of the limit',
                put: `${(found.kgPerM3 * 1000).toPrecision(3)} / ${lowerFlammableLimit * 1000} g/m³`,
                gives: percent(found.ofLowerLimit!),
              },
            ]),
        ...(found.largestKg === undefined
          ? []
          : [
              {
                what: 'Largest charge',
                put:
                  refrigerant === 'R-717'
                    ? `320 ppm × ${say('room', roomM3)}`
                    : `${percent(alarm)} × ${lowerFlammableLimit! * 1000} g/m³ × ${say('room', roomM3)}`,
                gives: say('weight', found.largestKg),
              },
            ]),
      ],
      uncertainty: [
        'Even mixing is assumed. These gases are heavier than air (ammonia apart): at the floor it can be many times this.',
      ],
      source: ['Charge / (room volume × lower flammable limit), class by ISO 817.'],
      caution: [
        'Product and building standards rule, not this figure.',
        'No flame, no sparks, ventilate low down, carry a detector.',
        LOCAL_RULES,
      ],
      unknown: ['Openings, ventilation, pits and where the leak would be.'],
    }
  },
})
