import { REST_KG, timeLeft, type TimeLeft } from '#core/recovery'
import { maybe, measure, rows } from '../fields'
import type { Judgement } from '../outcome'
import { LOCAL_RULES, Refusal, sayIn, tool } from '../tool'

export default tool({
  name: 'time-left',
  title: 'Time left',
  question: 'How long does this recovery still take?',
  inputs: {
    note: rows('Weights noted', 6, 'weight', {
      weight: measure('weight', 'Net recovered, or gross', { least: 0, most: 10_000 }),
      at: measure('duration', 'After', { least: 0, most: 7 * 86_400, help: 'Minutes since any one moment.' }),
    }),
    expected: maybe('weight', 'Should come in all', {
      least: 0.01,
      most: 10_000,
      help: 'On the same scale: net with net, gross with gross.',
    }),
  },
  example: {
    note_1_weight: '1 kg',
    note_1_at: '2 min',
    note_2_weight: '1.8 kg',
    note_2_at: '4 min',
    note_3_weight: '2.3 kg',
    note_3_at: '6 min',
    note_4_weight: '2.6 kg',
    note_4_at: '8 min',
  },
  work({ note, expected }, { reading }) {
    const say = sayIn(reading)
    if (note.length < 3)
      throw new Refusal({
        [`note_${note.length + 1}_weight`]:
          'Three weights are needed to see where it is going: note one more in a minute.',
      })
    for (let i = 1; i < note.length; i++)
      if (note[i]!.at <= note[i - 1]!.at)
        throw new Refusal({
          [`note_${note[i]!.row}_at`]: 'Times must rise from one weight to the next: put them in order.',
        })
    const found = timeLeft(
      note.map(({ at, weight }) => ({ atS: at, massKg: weight })),
      expected,
    )
    const range = 'leftS' in found ? { least: found.leastS, most: found.mostS } : undefined
    const rates = note.slice(1).map((n, i) => (n.weight - note[i]!.weight) / ((n.at - note[i]!.at) / 60))
    return {
      hero: hero(found, say),
      judgement: judge(found),
      figures: [
        ...('leftS' in found
          ? [
              {
                name: 'left',
                label: 'Still to go',
                kind: 'duration' as const,
                value: found.leftS,
                ...(Number.isFinite(range!.most) ? { range: range! } : {}),
              },
            ]
          : []),
        ...(found.kind === 'levelling'
          ? [{ name: 'end', label: 'Levels off at', kind: 'weight' as const, value: found.endKg }]
          : []),
        { name: 'rate', label: 'Latest rate, a minute', kind: 'weight', value: rates.at(-1)! },
      ],
      data: { kind: found.kind },
      working: [
        ...rates.map((rate, i) => ({
          what: `${say('duration', note[i]!.at)} to ${say('duration', note[i + 1]!.at)}`,
          put: `${say('weight', note[i + 1]!.weight)} − ${say('weight', note[i]!.weight)}`,
          gives: `${say('weight', rate)} a minute`,
        })),
        ...(found.kind === 'levelling'
          ? [
              {
                what: 'Fit',
                put: 'w = w(end) − A·exp(−t/τ), least squares',
                gives: `w(end) ${say('weight', found.endKg)}, τ ${say('duration', found.tauS)}`,
              },
              {
                what: 'Still to go',
                put: `τ · ln(what is to come / ${say('weight', REST_KG)})`,
                gives: say('duration', found.leftS),
              },
            ]
          : found.kind === 'steady'
            ? [
                {
                  what: 'Still to go',
                  put: `(${say('weight', expected!)} − ${say('weight', note.at(-1)!.weight)}) / latest rate, and half as much again, since it slows at the end`,
                  gives: say('duration', found.leftS),
                },
              ]
            : []),
      ],
      uncertainty: [
        'The range covers every curve that a scale of 5 g cannot tell from this one, and never less than 0.8 to 1.4 times.',
      ],
      source: ['Recovery rates fall as exp(−t/τ) once the liquid is gone.'],
      caution: ['Watch the gross limit of the cylinder, whatever this says.', LOCAL_RULES],
      unknown: ['Liquid trapped in cold corners: the last hundred grams can take as long as all the rest.'],
    }
  },
})

function hero(found: TimeLeft, say: ReturnType<typeof sayIn>) {
  switch (found.kind) {
    case 'levelling':
    case 'steady':
      return {
        label: 'Still to go',
        text: say.range('duration', found.leastS, found.mostS),
        beside:
          found.kind === 'levelling' ? `levels off at ${say('weight', found.endKg)}` : 'by what is expected',
      }
    case 'steady-unknown-end':
      return {
        label: 'Still to go',
        text: 'too soon to tell',
        beside: `${say('weight', found.kgPerS * 60)} a minute`,
      }
    case 'flat':
      return { label: 'Still to go', text: 'nothing moves', beside: 'less than 5 g in a minute or more' }
    case 'falling':
      return {
        label: 'Still to go',
        text: 'it falls',
        beside: `${say('weight', found.kgPerS * 60)} a minute`,
      }
  }
}

function judge(found: TimeLeft): Judgement {
  switch (found.kind) {
    case 'levelling':
      return {
        outcome: 'good',
        words: 'It is levelling off',
        reasons: [
          Number.isFinite(found.mostS)
            ? 'The rate falls: the end can be seen.'
            : 'The rate falls, but too little to see the end: note another weight in a few minutes.',
        ],
      }
    case 'steady':
      return { outcome: 'good', words: 'Still at full rate', reasons: ['It will slow down towards the end.'] }
    case 'steady-unknown-end':
      return {
        outcome: 'open',
        words: 'Too soon to tell',
        reasons: ['The rate has not fallen yet: enter what should come in all, or note more weights.'],
      }
    case 'falling':
      return {
        outcome: 'caution',
        words: 'The weight falls',
        reasons: ['Gas flows back, a hose pulls, or the scale was touched: that is no levelling off.'],
      }
    case 'flat':
      return {
        outcome: 'caution',
        words: 'Done, or stuck',
        reasons: [
          'Look at the pressure: at level it is done; above it, liquid is frozen in, a valve is closed, or the machine has cut out.',
        ],
      }
  }
}
