import { conductance, seriesConductance, tubeVolumeM3 } from '#core/hoses'
import { liquidDensity, tableOf, vapourDensity } from '#core/refrigerants'
import { PA_PER_MICRON, ZERO_CELSIUS_K } from '#core/units'
import { effectiveSpeed } from '#core/vacuum'
import { choice, gas, usually } from '../fields'
import { LOCAL_RULES, onField, Refusal, sayIn, tool } from '../tool'
import { cores, HOSE, hoseTube } from './hose-inputs'
import { TABLE_SOURCE } from './sources'

const ULTIMATE_PA = 2

export default tool({
  name: 'hoses',
  title: 'Hoses',
  question: 'What do these hoses keep, and what do they leave of my pump?',
  inputs: {
    refrigerant: gas(),
    ...HOSE,
    count: usually('number', 'How many in a row', 1, { aside: true, least: 1, most: 10 }),
    core: choice('Valve cores', { out: 'out', in: 'one left in' }),
    t: usually('temperature', 'Temperature of the hose', 25 + ZERO_CELSIUS_K, { aside: true }),
    pump: usually('flow', 'Pump, free air', 2.83e-3, { least: 1e-5, most: 0.1 }),
    pressure: usually('vacuum', 'At this vacuum', 500 * PA_PER_MICRON, {
      aside: true,
      least: 5,
      most: 100_000,
    }),
  },
  example: { refrigerant: 'R-410A', size: '1/4', length: '1.5 m', pump: '6 cfm', core: 'out' },
  work({ refrigerant, count, core, t, pump, pressure, ...hose }, { reading }) {
    if (!Number.isInteger(count)) throw new Refusal({ count: 'Enter a whole number of hoses, such as 2.' })
    const say = sayIn(reading)
    const table = tableOf(refrigerant)
    const tube = hoseTube(hose)
    const volumeM3 = tubeVolumeM3(tube) * count
    const liquid = onField('t', () => liquidDensity(table, t))
    const vapour = vapourDensity(table, t)
    const tubes = [...Array.from({ length: count }, () => tube), ...cores(core === 'in' ? 1 : 0)]
    const speed = effectiveSpeed({ tubes, pumpM3s: pump, ultimatePa: ULTIMATE_PA }, pressure)
    const share = speed / pump
    return {
      hero: {
        label: 'Full of liquid they keep',
        text: say('weight', volumeM3 * liquid),
        beside: `full of vapour ${say('weight', volumeM3 * vapour)}`,
      },
      judgement: {
        outcome: share < 0.1 ? 'caution' : 'good',
        words: `${say('flow', speed)} arrive at the system: ${(share * 100).toFixed(share < 0.1 ? 1 : 0)} % of the pump`,
        reasons:
          share < 0.1
            ? ['The hose decides, not the pump: shorter and wider hoses, cores out.']
            : ['The pump is used well.'],
      },
      figures: [
        { name: 'liquid', label: 'Full of liquid', kind: 'weight', value: volumeM3 * liquid },
        { name: 'vapour', label: 'Full of saturated vapour', kind: 'weight', value: volumeM3 * vapour },
        { name: 'volume', label: 'Inner volume', kind: 'oil', value: volumeM3 * 1e6 },
        { name: 'effective_speed', label: 'Speed at the system', kind: 'flow', value: speed },
        { name: 'share_of_pump', label: 'Share of the pump', kind: 'share', value: share },
      ],
      working: [
        {
          what: 'Inner volume',
          put: `${count} × π/4 × (${say('bore', tube.boreM)})² × ${say('length', tube.lengthM)}`,
          gives: `${(volumeM3 * 1e6).toFixed(1)} mL`,
        },
        {
          what: 'Liquid',
          put: `${(volumeM3 * 1e6).toFixed(1)} mL × ${say('density', liquid)}`,
          gives: say('weight', volumeM3 * liquid),
        },
        {
          what: 'Vapour',
          put: `${(volumeM3 * 1e6).toFixed(1)} mL × ${say('density', vapour)}`,
          gives: say('weight', volumeM3 * vapour),
        },
        {
          what: 'Conductance of one hose',
          put: `135 d⁴/l·p + 12.1 d³/l·(1 + 192 d p)/(1 + 237 d p), d and l in cm, p = ${(pressure / 100).toPrecision(3)} mbar`,
          gives: say('flow', conductance(tube, pressure)),
        },
        {
          what: 'All in a row',
          put: core === 'in' ? '1/C adds, with the valve core as a tube of 1.5 mm × 10 mm' : '1/C adds',
          gives: say('flow', seriesConductance(tubes, pressure)),
        },
        {
          what: 'Speed at the system',
          put: '1/S = 1/S(pump) + Σ 1/C, at the mean pressure of both ends',
          gives: say('flow', speed),
        },
      ],
      uncertainty: [
        'Bores differ by make, ±10 %, which is ±20 % in what they keep and ±40 % in what they let through.',
      ],
      source: ['Standard vacuum-technology interpolation for round tubes, air at 20 °C.', TABLE_SOURCE],
      caution: [
        'What stays in the hoses is not in the system: let the running system swallow it, or count it.',
        'Liquid shut in between two closed valves bursts a hose when it warms.',
        LOCAL_RULES,
      ],
      unknown: ['Fittings, ball valves and kinks: each takes some more.'],
      onward: [
        {
          to: `evacuation-time?set_1_size=${encodeURIComponent(hose.size)}&set_1_length_m=${hose.length}&set_1_core=${core}`,
          words: 'How long to evacuate with them?',
        },
      ],
    }
  },
})
