import { recoveryTimeLeft, STAYS, type TimeLeft } from '#core/recovery'
import { choice, maybe, measure, rows } from '../fields'
import type { Judgement } from '../outcome'
import { LOCAL_RULES, Refusal, sayIn, tool } from '../tool'

export default tool({
  name: 'time-left',
  title: 'Time left',
  question: 'How long does this recovery still take?',
  inputs: {
    note: rows('Weights noted', 6, 'weight', {
      weight: measure('weight', 'Net recovered', { least: 0, most: 10_000 }),
      at: measure('duration', 'After', { least: 0, most: 7 * 86_400, help: 'Minutes since any one moment.' }),
    }),
    expected: maybe('weight', 'Should come in all', {
      least: 0.01,
      most: 10_000,
      help: 'By plate or books, as far as these weights count it.',
    }),
    comes: choice(
      'What comes now',
      { unknown: 'not known', liquid: 'liquid', vapour: 'vapour' },
      'Liquid stands in the glass, or the gauge stays at the pressure of liquid. What boils off after it comes slower.',
    ),
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
    expected: '3.4 kg',
  },
  work({ note, expected, comes }, { reading }) {
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
    const found = inMinutes(
      recoveryTimeLeft(
        note.map(({ at, weight }) => ({ atS: at, massKg: weight })),
        expected,
        comes === 'unknown' ? undefined : comes,
      ),
    )
    const range = 'leftS' in found ? { least: found.leastS, most: found.mostS } : undefined
    const rates = note.slice(1).map((n, i) => (n.weight - note[i]!.weight) / ((n.at - note[i]!.at) / 60))
    return {
      hero: hero(found, say),
      judgement: judge(found, expected !== undefined && note.at(-1)!.weight >= expected),
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
        { name: 'rate', label: 'Latest rate, a minute', kind: 'weight', value: rates.at(-1)! },
      ],
      data: { kind: found.kind },
      working: [
        ...rates.map((rate, i) => ({
          what: `${say('duration', note[i]!.at)} to ${say('duration', note[i + 1]!.at)}`,
          put: `${say('weight', note[i + 1]!.weight)} − ${say('weight', note[i]!.weight)}`,
          gives: `${say('weight', rate)} a minute`,
        })),
        ...(found.kind === 'steady' ? steadyWorking(expected!, note.at(-1)!.weight, found, say) : []),
      ],
      uncertainty: [
        'Of recoveries of 55 g to 20 kg on the simulated plant nine in ten took as long as the range says.',
      ],
      source: ['What stays behind, and how much slower the end is: measured on the same recoveries.'],
      caution: ['Watch the gross limit of the cylinder, whatever this says.', LOCAL_RULES],
      unknown: ['Liquid trapped in cold corners: the last hundred grams can take as long as all the rest.'],
    }
  },
})

function hero(found: TimeLeft, say: ReturnType<typeof sayIn>) {
  switch (found.kind) {
    case 'steady':
      return {
        label: 'Still to go',
        text: say.range('duration', found.leastS, found.mostS),
        beside: 'by what is expected',
      }
    case 'steady-unknown-end':
      return {
        label: 'Still to go',
        text: 'cannot tell',
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

/** No weights tell seconds. */
function inMinutes(found: TimeLeft): TimeLeft {
  if (found.kind !== 'steady') return found
  const { leftS, leastS, mostS } = found
  return {
    ...found,
    leftS: 60 * Math.round(leftS / 60),
    leastS: 60 * Math.floor(leastS / 60),
    mostS: 60 * Math.ceil(mostS / 60),
  }
}

/** At least what surely comes at the latest rate; at most what usually comes, slower. */
function steadyWorking(
  expectedKg: number,
  lastKg: number,
  { kgPerS, leastS, mostS, slower }: Extract<TimeLeft, { kind: 'steady' }>,
  say: ReturnType<typeof sayIn>,
) {
  const stays = ({ kg, share }: { kg: number; share: number }) =>
    `${say('weight', expectedKg)} − ${say('weight', lastKg)} − ${say('weight', kg)} − ${100 * share} % of all`
  const rate = `${say('weight', 60 * kgPerS)} a minute`
  const times = (factor: number) => (factor === 1 ? '' : `, ${Number(factor.toPrecision(2))} times as long`)
  return [
    {
      what: 'At least',
      put: `(${stays(STAYS.most)}) / ${rate}${times(slower.least)}`,
      gives: say('duration', leastS),
    },
    {
      what: 'At most',
      put: `(${stays(STAYS.usual)}) / ${rate}${times(slower.most)}: slower towards the end, and slowest after liquid`,
      gives: say('duration', mostS),
    },
  ]
}

/** @param all what was expected is out */
function judge(found: TimeLeft, all: boolean): Judgement {
  switch (found.kind) {
    case 'steady':
      return {
        outcome: 'good',
        words: 'Still coming',
        reasons: [
          'By what should come and how fast it comes now. It slows down at the end: that is the range.',
        ],
      }
    case 'steady-unknown-end':
      return {
        outcome: 'open',
        words: all ? 'All that was expected is out' : 'Cannot tell',
        reasons: [
          all
            ? 'How much more there is nobody knows: go by the pressure.'
            : 'How much is to come is not known, and weights alone do not say it: enter what should come in all.',
        ],
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
