import { describe, expect, it } from 'vitest'
import { type Entry, foldTape } from '#core/tape'
import { METRIC_UNITS, US_UNITS } from '#core/units'
import { wrote } from '../../../testing/an-entry'
import { parseQuick, type QuickContext } from './quick-grammar'

const started: Entry = wrote(
  'run-started',
  { runId: 'r1', use: 'recover', cylinderId: 'A', scale: '', mode: 'gross', weightMg: 0 },
  0,
)
const context = (units = US_UNITS, entries = [started]): QuickContext => ({
  state: foldTape(entries),
  reading: { units },
  now: 12 * 3600e3,
  todayAt: (h, m) => (h * 60 + m) * 60e3,
})
const body = (line: string, c = context()) => {
  const parse = parseQuick(line, c)
  return parse.kind === 'ready' ? [parse.drafts[0]!.kind, parse.drafts[0]!.body] : parse
}

describe('parseQuick', () => {
  it('notes weights for the running transfer, with or without the w', () => {
    for (const line of ['w 12 lb 4 oz', 'W 12lb4', '12.25 lb', 'w 12.25'])
      expect(body(line), line).toEqual([
        'weight-noted',
        {
          runId: 'r1',
          weightMg: 5_556_507,
          on: started.entryId,
        },
      ])
    expect(body('w 5.5', context(METRIC_UNITS))).toEqual([
      'weight-noted',
      { runId: 'r1', weightMg: 5_500_000, on: started.entryId },
    ])
  })
  it.each([
    ['p low 1,250', ['p low 1.25 psi', 'p low 1250 psi']],
    ['p 1,250', ['p 1.25 psi', 'p 1250 psi']],
  ])('keeps what %s was of when one of its readings is chosen', (line, texts) => {
    const parse = parseQuick(line, context())
    expect(parse.kind === 'choose' && parse.readings.map(({ text }) => text)).toEqual(texts)
  })
  it('offers the readings of an ambiguous weight as whole lines', () => {
    expect(parseQuick('@10:42 w 3-9', context())).toMatchObject({
      kind: 'choose',
      readings: [{ text: '@10:42 w 3 lb 9 oz' }, { text: '@10:42 w 3.9 lb' }, { text: '@10:42 w 3.9 kg' }],
    })
  })
  it('notes pressures, temperatures, vacuum and oil at their points', () => {
    expect(body('p 0')).toEqual(['pressure-noted', { point: 'low', pressurePa: 101_325 }])
    expect(body('p high 20 bar')).toEqual(['pressure-noted', { point: 'high', pressurePa: 2_101_325 }])
    expect(body('t 31C')).toEqual(['temperature-noted', { point: 'ambient', tempK: 304.15 }])
    expect(body('t suction 50')).toEqual(['temperature-noted', { point: 'suction', tempK: 283.15 }])
    expect(body('v 500')).toEqual(['vacuum-noted', { pressurePa: 66.66 }])
    expect(body('oil out 30 mL')).toEqual(['oil-noted', { direction: 'out', volumeMl: 30, text: '' }])
  })
  it('takes notes, waiting and times gone by', () => {
    expect(body('note valve core leaks')).toEqual(['note', { text: 'valve core leaks' }])
    expect(body('wait compressor')).toEqual(['job-waiting', { what: 'compressor' }])
    expect(parseQuick('@10:42 v 480', context())).toMatchObject({ kind: 'ready', at: (10 * 60 + 42) * 60e3 })
  })
  it.each([
    ['w 12 lb', context(US_UNITS, []), /no transfer is running/i],
    ['w lots', context(), /not a weight/],
    ['x 5', context(), /no command/],
    ['p roof 5', context(), /no point of measurement/],
    ['oil 5', context(), /oil out, oil in/],
    ['note', context(), /after the word note/],
    ['v', context(), /figure after it/],
    ['@25:00 v 5', context(), /no time of day/],
    ['@13:00 v 5', context(), /has not been yet/],
  ])('refuses "%s" with what to do', (line, c, message) => {
    const parse = parseQuick(line, c)
    expect(parse.kind).toBe('wrong')
    expect((parse as { message: string }).message).toMatch(message)
  })
})
