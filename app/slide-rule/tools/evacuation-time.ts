import { airLeft, evacuationCurve, type EvacuationRig, NeverReachedError } from '#core/vacuum'
import { PA_PER_MICRON } from '#core/units'
import { ALTITUDE, choice, measure, rows, usually } from '../fields'
import { LOCAL_RULES, Refusal, sayIn, tool } from '../tool'
import { atmosphereOf } from '../kinds'
import { cores, hoseTube } from './hose-inputs'

/** Small shares as parts per million, smaller ones as less than can matter. */
const shareWords = (share: number) =>
  share >= 1e-4
    ? `${(share * 100).toPrecision(2)} %`
    : share >= 1e-9
      ? `${Number((share * 1e6).toPrecision(2))} ppm`
      : 'less than 0.001 ppm'

/** How far off such a time is, even for a dry and tight system. */
const ROUGH = { least: 0.8, most: 1.5 }

const minutes = (seconds: number) =>
  seconds < 600 ? (seconds / 60).toFixed(1) : String(Math.round(seconds / 60))

export default tool({
  name: 'evacuation-time',
  title: 'Evacuation time',
  question: 'How long does this vacuum take with these hoses, cores in or out?',
  inputs: {
    volume: measure('capacity', 'Inner volume of the system', {
      least: 1e-4,
      most: 5,
      help: 'A cold room’s circuit holds some 10 to 20 L, a refrigerated van’s about 8 L.',
    }),
    target: usually('vacuum', 'Down to', 500 * PA_PER_MICRON, { least: 3, most: 50_000 }),
    pump: usually('flow', 'Pump, free air', 2.4e-3, { least: 1e-5, most: 0.1 }),
    ultimate: usually('vacuum', 'The pump itself reaches', 15 * PA_PER_MICRON, {
      aside: true,
      least: 0.1,
      most: 1000,
    }),
    set: rows('Hose sets to compare', 4, 'length', {
      length: usually('length', 'Length', 1.5, { least: 0.1, most: 50 }),
      size: choice('Hose', { '1/4': '1/4 in', '3/8': '3/8 in', '1/2': '1/2 in' }, '4.8, 8 or 11 mm bore'),
      core: choice('Valve core', { out: 'out', in: 'in' }),
    }),
    leak: usually('number', 'Leak, Pa·L/s', 0, {
      aside: true,
      least: 0,
      most: 1000,
      help: 'Leave it at 0 for a tight system.',
    }),
    altitude: ALTITUDE,
  },
  example: {
    volume: '10 L',
    pump: '2.4 L/s',
    set_1_size: '1/4',
    set_1_length: '1.5 m',
    set_1_core: 'in',
    set_2_size: '3/8',
    set_2_length: '1.5 m',
    set_2_core: 'out',
  },
  work({ volume, target, pump, ultimate, set, leak }, { reading }) {
    const say = sayIn(reading)
    const fromPa = atmosphereOf(reading)
    if (target <= ultimate)
      throw new Refusal({
        target: `The pump itself only reaches ${say('vacuum', ultimate)}: choose a target above that.`,
      })
    const given =
      set.length > 0
        ? set
        : [
            { size: '1/4' as const, length: 1.5, core: 'out' as const },
            { size: '3/8' as const, length: 1.5, core: 'out' as const },
          ]
    const sets = given.map(({ size, length, core }) => {
      const rig: EvacuationRig = {
        tubes: [hoseTube({ size, bore: undefined, length }), ...cores(core === 'in' ? 1 : 0)],
        pumpM3s: pump,
        ultimatePa: ultimate,
      }
      return { name: `${size} in, ${say('length', length)}, core ${core}`, rig, seconds: timeTo(rig) }
    })
    const best = sets.reduce((a, b) => (b.seconds < a.seconds ? b : a))
    const first = sets[0]!
    const leftShares = [1, 2, 3].map((n) => airLeft(target, fromPa, n))

    function timeTo(rig: EvacuationRig): number {
      try {
        return evacuationCurve(rig, volume, fromPa, target, leak / 1000).at(-1)!.atS
      } catch (error) {
        if (error instanceof NeverReachedError)
          throw new Refusal({
            leak: `With this leak it stops near ${say('vacuum', error.lowestPa)} and never reaches ${say('vacuum', target)}: find the leak first.`,
          })
        throw error
      }
    }
    return {
      hero: {
        label: `To ${say('vacuum', target)}, ${first.name}`,
        text: `${minutes(first.seconds)} min`,
        beside:
          `${minutes(ROUGH.least * first.seconds)} to ${minutes(ROUGH.most * first.seconds)} min, dry and tight` +
          (best === first ? '' : `. ${best.name}: ${minutes(best.seconds)} min`),
      },
      figures: [
        {
          name: 'time',
          label: `Time, ${first.name}`,
          kind: 'duration',
          value: first.seconds,
          range: { least: ROUGH.least * first.seconds, most: ROUGH.most * first.seconds },
        },
      ],
      data: { sets: sets.map((s) => ({ name: s.name, time_s: s.seconds })), air_left_after: leftShares },
      working: [
        {
          what: 'Pressure',
          put: 'V dp/dt = −S(p)·(p − p(pump)) + leak, from the local atmosphere down, in steps of ln p',
          gives: `${say('capacity', volume)} from ${(fromPa / 100).toFixed(0)} mbar`,
        },
        ...sets.map((s) => ({
          what: s.name,
          put: 'S(p) from pump and hose in series at each pressure, valve core as a tube of 1.5 mm × 10 mm',
          gives: `${minutes(s.seconds)} min`,
        })),
        {
          what: 'Air left',
          put: `(${say('vacuum', target)} / ${(fromPa / 100).toFixed(0)} mbar)ⁿ with dry nitrogen let in between`,
          gives: leftShares.map(shareWords).join(', '),
        },
      ],
      uncertainty: [
        'A dry, tight system: 0.8 to 1.5 times this. With water in it, many times longer: 5 g took 26 min on 3/8 in and 74 min on 1/4 in in the plant model.',
      ],
      source: ['Hose conductance by the standard interpolation, air at 20 °C.'],
      caution: [
        'Time is not a measure: the micron gauge at the system is.',
        'A gauge at the pump reads far too low under flow.',
        'Pulling fast on a wet system can freeze the water.',
        LOCAL_RULES,
      ],
      unknown: ['Moisture, oil that gives off gas, and refrigerant still dissolved in oil.'],
      tables: [
        {
          title: 'Side by side',
          head: ['Hose set', 'Time', 'Compared'],
          rows: sets.map((s) => [
            s.name,
            `${minutes(s.seconds)} min`,
            `${(s.seconds / best.seconds).toFixed(1)} ×`,
          ]),
        },
        {
          title: 'Leftover air, nitrogen in between',
          head: ['Evacuations', 'Share of the first air'],
          rows: leftShares.map((share, i) => [String(i + 1), shareWords(share)]),
        },
      ],
      comparison: {
        volumeM3: volume,
        fromPa,
        toPa: target,
        leakPaM3s: leak / 1000,
        sets: sets.map((s) => ({ name: s.name, rig: s.rig })),
      },
    }
  },
})
