import { injectorSteps, judgeOilType, oilBalance, type OilPart, PART_OIL_ML } from '#core/oil'
import { choice, flag, maybe, maybeGas, rows, usually } from '../fields'
import { judgementOf } from '../judgement'
import { LOCAL_RULES, Refusal, sayIn, tool } from '../tool'

const PARTS: Record<OilPart, string> = {
  condenser: 'condenser',
  evaporator: 'evaporator',
  drier: 'drier or accumulator',
  hose: 'hose',
  compressor: 'compressor: what the old one held',
}

export default tool({
  name: 'oil',
  title: 'Oil',
  question: 'How much oil goes back in, and is it the right one?',
  inputs: {
    out: maybe('oil', 'Came out', {
      least: 0,
      most: 50_000,
      help: 'Bottle before and after; 0 when nothing came.',
    }),
    part: rows('Parts replaced', 4, 'part', {
      part: choice<OilPart | 'none'>('Part', { none: 'none', ...PARTS }),
      count: maybe('number', 'How many', { least: 1, most: 20, help: 'Left empty: one.' }),
      each: maybe('oil', 'Oil it took, each', {
        least: 0,
        most: 5000,
        help: 'The maker’s figure; left empty, the usual one.',
      }),
    }),
    already: usually('oil', 'Has gone in already', 0, { least: 0, most: 50_000 }),
    step: maybe('oil', 'Injector counts in steps of', { least: 0.01, most: 500 }),
    dyed: flag('A new part or the oil comes with dye in it'),
    type: choice('Oil', {
      none: 'no check of the type',
      PAG: 'PAG',
      POE: 'POE',
      PVE: 'PVE',
      mineral: 'mineral',
      AB: 'AB (alkylbenzene)',
    }),
    refrigerant: maybeGas('Refrigerant'),
    drive: choice('Compressor', {
      belt: 'driven by a belt',
      'high-voltage': 'high-voltage, in a vehicle',
      stationary: 'stationary',
    }),
  },
  example: {
    out: '35 mL',
    part_1_part: 'condenser',
    part_1_count: '1',
    part_2_part: 'drier',
    part_2_count: '1',
    step: '5 mL',
    type: 'PAG',
    refrigerant: 'R-1234yf',
    drive: 'belt',
  },
  work({ out: cameOut, part, already, step, dyed, type, refrigerant, drive }, { reading }) {
    if (cameOut === undefined && part.every((row) => row.part === 'none') && type === 'none')
      throw new Refusal({ out: 'Enter what came out, or a part that was replaced.' })
    const out = cameOut ?? 0
    const say = sayIn(reading)
    const taken = part.flatMap((row) => {
      if (row.part === 'none') return []
      const count = row.count ?? 1
      if (!Number.isInteger(count))
        throw new Refusal({ [`part_${row.row}_count`]: 'Enter a whole number of parts.' })
      const usual = PART_OIL_ML[row.part]
      if (row.each === undefined && !usual)
        throw new Refusal({
          [`part_${row.row}_each`]: 'Enter what the old compressor held: drain and measure it.',
        })
      const each = row.each ?? usual!.ml
      const spread = row.each === undefined ? (usual!.most - usual!.least) / 2 : 0
      return [
        {
          name: PARTS[row.part],
          count,
          each,
          ml: count * each,
          spread: count * spread,
          usual: row.each === undefined,
        },
      ]
    })
    const partsMl = taken.reduce((sum, t) => sum + t.ml, 0)
    const spreadMl = Math.hypot(...taken.map((t) => t.spread), 0)
    const { dueMl } = oilBalance(out, partsMl, already)
    const steps = step === undefined ? undefined : injectorSteps(dueMl, step)
    if (type !== 'none' && refrigerant === undefined && drive !== 'high-voltage')
      throw new Refusal({ refrigerant: 'Choose the refrigerant: whether an oil fits depends on it.' })
    const fits = type === 'none' ? undefined : judgeOilType(type, refrigerant ?? 'R-1234yf', drive)
    const nothing = out === 0 && taken.length === 0
    return {
      hero: {
        label: dueMl < 0 ? 'Too much has gone in' : 'Goes in',
        text: say('oil', steps && dueMl > 0 ? steps.volumeMl : Math.abs(dueMl)),
        beside:
          steps && dueMl > 0
            ? `${steps.steps} steps of ${say('oil', step!)}${steps.extraMl > 0 ? `; ${say('oil', steps.extraMl)} more than needed` : ', exactly'}`
            : nothing
              ? 'nothing out and nothing replaced: nothing in'
              : spreadMl > 0
                ? `give or take ${say('oil', spreadMl)}`
                : 'exactly what left',
      },
      ...(fits ? { judgement: judgementOf(fits) } : {}),
      figures: [
        {
          name: 'due',
          label: 'Should go in',
          kind: 'oil',
          value: dueMl,
          ...(spreadMl > 0 ? { range: { least: dueMl - spreadMl, most: dueMl + spreadMl } } : {}),
        },
        ...(steps
          ? [
              { name: 'steps', label: 'Injector steps', kind: 'number' as const, value: steps.steps },
              {
                name: 'injected',
                label: 'Goes in, in whole steps',
                kind: 'oil' as const,
                value: steps.volumeMl,
              },
            ]
          : []),
      ],
      working: [
        { what: 'Came out', put: 'bottle after − bottle before', gives: say('oil', out) },
        ...taken.map((t) => ({
          what: t.name,
          put: `${t.count} × ${say('oil', t.each)}${t.usual ? ', usual figure' : ''}`,
          gives: say('oil', t.ml),
        })),
        {
          what: 'Should go in',
          put: `${say('oil', out)} + ${say('oil', partsMl)} − ${say('oil', already)}`,
          gives: say('oil', dueMl),
        },
        ...(steps
          ? [
              {
                what: 'Whole steps',
                put: `${say('oil', Math.max(0, dueMl))} / ${say('oil', step!)}, rounded up`,
                gives: `${steps.steps} × ${say('oil', step!)} = ${say('oil', steps.volumeMl)}`,
              },
            ]
          : []),
      ],
      uncertainty: [
        spreadMl > 0
          ? 'The usual figures of parts are rough: condenser 20 to 40, evaporator 35 to 65, drier 30 to 60, hose 5 to 15 mL.'
          : 'As good as the bottle’s scale.',
      ],
      source: ['What came out goes back, plus what replaced parts took. The maker’s data win.'],
      caution: [
        ...(dyed ? ['There is dye in it already: do not dye twice.'] : []),
        ...(drive === 'high-voltage' ? ['Orange cables are for trained people.'] : []),
        'Fresh oil of the same type and grade, from its own closed bottle.',
        LOCAL_RULES,
      ],
      unknown: ['Oil lost through a leak before today, and the grade (viscosity) that the maker wants.'],
      carry: [
        ...(out > 0 ? [{ line: `oil out ${out} mL`, words: 'Note the oil that came out' }] : []),
        ...(partsMl > 0
          ? [{ line: `oil parts ${Number(partsMl.toFixed(1))} mL`, words: 'Note what the parts took' }]
          : []),
      ],
    }
  },
})
