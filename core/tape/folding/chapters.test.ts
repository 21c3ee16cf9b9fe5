import { describe, expect, it } from 'vitest'
import { anEntry } from '../../../testing/an-entry'
import { figureOf, KINDS, refsOf, withoutOwnId } from '..'

describe('a kind', () => {
  it('names the cylinders and systems that it refers to, and so does a correction of it', () => {
    expect(refsOf(anEntry('job-described', { systemId: 's' }))).toEqual({
      cylinders: [],
      systems: ['s'],
      kit: [],
    })
    expect(refsOf(anEntry('gas-judged', { cylinderId: 'c', condition: 'used' }))).toEqual({
      cylinders: ['c'],
      systems: [],
      kit: [],
    })
    const body = { runId: 'r', use: 'recover', cylinderId: 'd', scale: '', mode: 'gross', weightMg: 1 }
    const correction = { entryId: 'e', kind: 'run-started' as const, reason: '' }
    expect(refsOf(anEntry('correction', { ...correction, body })).cylinders).toEqual(['d'])
    expect(refsOf(anEntry('correction', { ...correction, body: null })).cylinders).toEqual([])
  })
  it('says the same when it is pressed twice, though each press made an id', () => {
    const press = (holdId: string) => withoutOwnId('hold-started', { holdId, pressurePa: 60 })
    expect(press('a')).toEqual(press('b'))
    expect(withoutOwnId('hold-ended', { holdId: 'a', pressurePa: 60 })).toEqual({
      holdId: 'a',
      pressurePa: 60,
    })
  })
  it('has its figure in its body, and one that has is correctable', () => {
    expect(figureOf('vacuum-noted')).toEqual({ quantity: 'vacuum', key: 'pressurePa' })
    expect(figureOf('note')).toBeNull()
    for (const [kind, { figure, correctable }] of Object.entries(KINDS))
      if (figure) expect([kind, correctable]).toEqual([kind, true])
  })
})
