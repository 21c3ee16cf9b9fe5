import { saturationTempK, tableOf } from '#core/refrigerants'
import {
  judgeReadings,
  judgeVent,
  LEAST_TARGET_K,
  orificeTargetSuperheatK,
  superheatAndSubcooling,
} from '#core/verify'
import { ALTITUDE, choice, gas, maybe } from '../fields'
import { judgementOf } from '../judgement'
import { typedText } from '../kinds'
import type { Figure, Judgement, Step } from '../outcome'
import { LOCAL_RULES, onField, Refusal, sayIn, tool } from '../tool'
import { TABLE_SOURCE } from './sources'

export default tool({
  name: 'superheat',
  title: 'Superheat and subcooling',
  question: 'Do the readings fit what the metering device wants?',
  inputs: {
    refrigerant: gas(),
    low: maybe('pressure', 'Low side', { most: 4e6 }),
    suction: maybe('temperature', 'Suction line'),
    high: maybe('pressure', 'High side (liquid line)', { most: 1e7 }),
    liquid: maybe('temperature', 'Liquid line'),
    metering: choice('Metering device', {
      valve: 'thermostatic or electronic valve',
      fixed: 'fixed orifice',
      unknown: 'not known',
    }),
    target: maybe('difference', 'Subcooling on the plate', { least: 0.5, most: 25 }),
    wet: maybe('temperature', 'Wet bulb inside', { help: 'With a fixed orifice.' }),
    outdoor: maybe('temperature', 'Air outside', { help: 'With a fixed orifice.' }),
    vent: maybe('temperature', 'Centre vent of a vehicle', { help: 'At max cold, low fan.' }),
    inlet: maybe('temperature', 'Air that goes in', {
      help: 'Cabin air when it recirculates, else the air outside.',
    }),
    altitude: ALTITUDE,
  },
  example: {
    refrigerant: 'R-407C',
    low: '4.2 bar',
    suction: '10 C',
    high: '16 bar',
    liquid: '35 C',
    metering: 'valve',
  },
  work(
    { refrigerant, low, suction, high, liquid, metering, target, wet, outdoor, vent, inlet },
    { reading },
  ) {
    const say = sayIn(reading)
    const table = tableOf(refrigerant)
    if ((low === undefined) !== (suction === undefined))
      throw new Refusal(
        low === undefined
          ? { low: 'Superheat needs the low side pressure too.' }
          : { suction: 'Superheat needs the temperature of the suction line too.' },
      )
    if ((high === undefined) !== (liquid === undefined))
      throw new Refusal(
        high === undefined
          ? { high: 'Subcooling needs the high side pressure too.' }
          : { liquid: 'Subcooling needs the temperature of the liquid line too.' },
      )
    if ((vent === undefined) !== (inlet === undefined))
      throw new Refusal(
        vent === undefined
          ? { vent: 'Enter the temperature at the centre vent too.' }
          : { inlet: 'Enter the temperature of the air that goes in too.' },
      )
    if (low === undefined && high === undefined && vent === undefined)
      throw new Refusal({
        low: 'Enter a pressure and its temperature: low side with suction line, or high side with liquid line.',
      })
    if (low !== undefined) onField('low', () => saturationTempK(table, low, 'dew'))
    if (high !== undefined) onField('high', () => saturationTempK(table, high, 'bubble'))
    const result = superheatAndSubcooling(
      {
        ...(low === undefined ? {} : { lowPa: low, suctionK: suction! }),
        ...(high === undefined ? {} : { highPa: high, liquidK: liquid! }),
      },
      table,
    )
    const orificeK =
      metering === 'fixed' && wet !== undefined && outdoor !== undefined
        ? orificeTargetSuperheatK(wet, outdoor)
        : undefined
    const air = vent === undefined ? undefined : judgeVent(vent, inlet!)
    const parts: string[] = []
    const figures: Figure[] = []
    const working: Step[] = []
    if (result.superheatK !== undefined) {
      const dew = saturationTempK(table, low!, 'dew')
      parts.push(`SH ${say('difference', result.superheatK)}`)
      figures.push({
        name: 'superheat',
        label: 'Superheat',
        kind: 'difference',
        value: result.superheatK,
        range: { least: result.superheatK - 2, most: result.superheatK + 2 },
      })
      working.push({
        what: 'Superheat',
        put: `suction − dew at ${say('pressure', low!)} = ${say('temperature', suction!)} − ${say('temperature', dew)}`,
        gives: say('difference', result.superheatK),
      })
    }
    if (result.subcoolingK !== undefined) {
      const bubble = saturationTempK(table, high!, 'bubble')
      parts.push(`SC ${say('difference', result.subcoolingK)}`)
      figures.push({
        name: 'subcooling',
        label: 'Subcooling',
        kind: 'difference',
        value: result.subcoolingK,
        range: { least: result.subcoolingK - 2, most: result.subcoolingK + 2 },
      })
      working.push({
        what: 'Subcooling',
        put: `bubble at ${say('pressure', high!)} − liquid = ${say('temperature', bubble)} − ${say('temperature', liquid!)}`,
        gives: say('difference', result.subcoolingK),
      })
    }
    if (orificeK !== undefined) {
      figures.push({
        name: 'target_superheat',
        label: 'Superheat wanted, fixed orifice',
        kind: 'difference',
        value: orificeK,
        range: { least: orificeK - 2.8, most: orificeK + 2.8 },
      })
      working.push({
        what: 'Superheat wanted',
        put: '(3 · wet bulb inside − 80 − air outside) / 2, in °F',
        gives: say('difference', orificeK),
      })
    }
    if (air) {
      figures.push({
        name: 'vent_drop',
        label: 'Vent below the air that goes in',
        kind: 'difference',
        value: air.dropK,
      })
      working.push({
        what: 'Vent',
        put: `${say('temperature', inlet!)} − ${say('temperature', vent!)}`,
        gives: say('difference', air.dropK),
      })
    }
    const judgement = judge(orificeK)
    return {
      hero: {
        label: parts.length > 0 ? 'Superheat and subcooling' : 'Vent below the air that goes in',
        text: parts.join(' · ') || say('difference', air!.dropK),
        beside:
          orificeK !== undefined
            ? `wanted SH ${say('difference', orificeK)}`
            : metering === 'valve' && result.subcoolingK !== undefined
              ? `wanted SC ${target === undefined ? say.range('difference', 4.5, 7) : say('difference', target)}, give or take ${say('difference', 1.5)} of gauge and clamp`
              : `${refrigerant}`,
      },
      judgement,
      figures,
      working,
      uncertainty: [
        '±2 K with a good gauge and clamp. A clamp without insulation reads the air, not the pipe.',
      ],
      source: [
        'Superheat from dew at the suction pressure, subcooling from bubble at the liquid pressure.',
        'Fixed orifice: charging rule of the trade. Valves: 4.5 to 7 K of subcooling where nothing is printed.',
        TABLE_SOURCE,
      ],
      caution: ['Let it run ten minutes before believing it. By weight comes first.', LOCAL_RULES],
      unknown: ['Airflow, dirt and humidity, which move these as much as the charge does.'],
      carry: [
        ...(low === undefined
          ? []
          : [
              { line: `p low ${typedText('pressure', low, reading)}`, words: 'Note the low side' },
              {
                line: `t suction ${typedText('temperature', suction!, reading)}`,
                words: 'Note the suction line',
              },
            ]),
        ...(high === undefined
          ? []
          : [
              { line: `p high ${typedText('pressure', high, reading)}`, words: 'Note the high side' },
              {
                line: `t liquid ${typedText('temperature', liquid!, reading)}`,
                words: 'Note the liquid line',
              },
            ]),
        ...(vent === undefined
          ? []
          : [{ line: `t vent ${typedText('temperature', vent, reading)}`, words: 'Note the vent' }]),
      ],
    }

    function judge(orifice: number | undefined): Judgement {
      if (orifice !== undefined && result.superheatK !== undefined) {
        if (orifice < LEAST_TARGET_K)
          return {
            outcome: 'open',
            words: 'Not the weather to charge by superheat',
            reasons: [
              `The rule wants ${say('difference', orifice)}: below ${say('difference', LEAST_TARGET_K)} it does not hold. Weigh the charge in.`,
            ],
          }
        const off = result.superheatK - orifice
        if (Math.abs(off) <= 2.8)
          return {
            outcome: 'good',
            words: 'Superheat is where the orifice wants it',
            reasons: [`${say('difference', Math.abs(off))} away from it.`],
          }
        return off > 0
          ? {
              outcome: 'caution',
              words: 'Superheat is high',
              reasons: ['Short of charge, or too little air over the evaporator.'],
            }
          : {
              outcome: 'caution',
              words: 'Superheat is low',
              reasons: [
                'Overcharged, or too little heat at the evaporator: liquid may reach the compressor.',
              ],
            }
      }
      const vent = air && judgementOf(air.verdict)
      if (parts.length === 0) return vent!
      const verdict = judgeReadings(result, metering, target ?? null)
      return judgementOf(verdict, ...(vent ? [`${vent.words}: ${vent.reasons[0]}`] : []))
    }
  },
})
