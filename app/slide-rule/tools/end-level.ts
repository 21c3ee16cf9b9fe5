import { type EndLevel, endLevel } from '#core/recovery'
import { formatAbsolutePressure, PA_PER_INHG, STANDARD_ATMOSPHERE_PA } from '#core/units'
import { ALTITUDE, choice, gas, maybe } from '../fields'
import { LOCAL_RULES, Refusal, sayIn, TEXT_IN_FORCE, tool } from '../tool'
import { atmosphereOf } from '../kinds'

const RULE_WORDS: Record<EndLevel['rule'], string> = {
  'very-high-0': 'very high pressure: 0 psig',
  'high-small-0': 'high pressure, less than 200 lb: 0 psig',
  'high-large-10': 'high pressure, 200 lb or more: 10 inHg below atmosphere',
  'medium-small-10': 'medium pressure, less than 200 lb: 10 inHg below atmosphere',
  'medium-large-15': 'medium pressure, 200 lb or more: 15 inHg below atmosphere',
  'low-25-mmhg': 'low pressure: 25 mm of mercury absolute',
  'leaking-0': 'leaking: as low as can be reached without drawing air in, not above 0 psig',
  'small-sealed-4':
    'small sealed: 90 % of the charge with its compressor running, 80 % without, or 4 inHg below atmosphere',
  'vehicle-4': 'vehicle: 102 mmHg (4 inHg) below atmosphere',
}
const CLASS_WORDS = { low: 'low', medium: 'medium', high: 'high', 'very-high': 'very high' }

export default tool({
  name: 'end-level',
  title: 'End level',
  question: 'How far down must I recover before I open it?',
  inputs: {
    refrigerant: gas(),
    use: choice('It is', {
      appliance: 'a stationary system',
      leaking: 'a system that leaks',
      'small-sealed': 'a small sealed one (5 lb, 2.3 kg or less)',
      vehicle: 'a vehicle',
    }),
    charge: maybe('weight', 'Its full charge', {
      least: 0.001,
      most: 100_000,
      help: 'Decides between the steps below and above 200 lb (91 kg).',
    }),
    profile: choice('Rule profile', {
      us: 'United States, 40 CFR 82.158, machines made after 1993-11-15',
      own: 'a level of your own',
    }),
    own: maybe('pressure', 'The level of your own', { most: 200_000 }),
    altitude: ALTITUDE,
  },
  example: { refrigerant: 'R-134a', use: 'appliance', charge: '4 kg' },
  work({ refrigerant, use, charge, profile, own }, { reading }) {
    const say = sayIn(reading)
    if (profile === 'own' && own === undefined)
      throw new Refusal({ own: 'Enter the level that rules your work, such as −0.3 bar or 10 inHg.' })
    if (use === 'small-sealed' && charge !== undefined && charge > 2.28)
      throw new Refusal({
        charge: 'Small sealed systems hold 5 lb (2.27 kg) or less: choose a stationary system instead.',
      })
    const rule = endLevel(refrigerant, charge ?? 0, use)
    // The rule is written against the air outside: gauges are zeroed in it.
    const levelPa =
      profile === 'own'
        ? own!
        : rule.rule === 'low-25-mmhg'
          ? rule.levelPa
          : rule.levelPa - STANDARD_ATMOSPHERE_PA + atmosphereOf(reading)
    const words = profile === 'own' ? 'a level of your own' : RULE_WORDS[rule.rule]
    return {
      hero: { label: 'Down to, and it must stay there', text: say('pressure', levelPa), beside: words },
      figures: [{ name: 'level', label: 'End level', kind: 'pressure', value: levelPa }],
      data: { rule: profile === 'own' ? 'own' : rule.rule, pressure_class: rule.pressureClass },
      working: [
        {
          what: 'Pressure class',
          put: 'bubble pressure at 40 °C (104 F): low below 45 psia, medium to 170, high to 355',
          gives: CLASS_WORDS[rule.pressureClass],
        },
        {
          what: 'Charge',
          put:
            charge === undefined
              ? 'not given: taken as less than 200 lb'
              : `${say('weight', charge)} against 200 lb (90.7 kg)`,
          gives: charge !== undefined && charge >= 90.718 ? '200 lb or more' : 'less than 200 lb',
        },
        {
          what: 'Level',
          put: words,
          gives: `${((atmosphereOf(reading) - levelPa) / PA_PER_INHG).toFixed(1).replace('-', '−')} inHg below atmosphere = ${formatAbsolutePressure(levelPa, reading.units.pressure)}`,
        },
      ],
      uncertainty: ['The rule is exact; a gauge near zero is good to 1 % of its full scale.'],
      source: [profile === 'own' ? 'Your own figure.' : `40 CFR 82.158, table 1. ${TEXT_IN_FORCE}`],
      caution: [
        'If it leaks, stop at 0 psig: below that it draws air through the leak into the cylinder.',
        'Wait 5 to 10 minutes: if it climbs, go again.',
        LOCAL_RULES,
      ],
      unknown: [
        'What the law of your country, its dates and its exemptions say: other places ask for other levels.',
      ],
      onward: [
        {
          to: `rebound?refrigerant=${encodeURIComponent(refrigerant)}&level_Pa_abs=${Math.round(levelPa)}`,
          words: 'It climbed again: what does that mean?',
        },
      ],
    }
  },
})
