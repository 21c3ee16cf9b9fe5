// What a device keeps of what runs: the server's word, what is only known here, and nobody else's.
import { beforeEach, describe, expect, it } from 'vitest'
import { answered, heard, type JobClocks, kept, seenOnPage, takenAlong } from './running'

const store = new Map<string, string>()
beforeEach(() => {
  store.clear()
  Object.assign(globalThis, {
    localStorage: {
      getItem: (key: string) => store.get(key) ?? null,
      setItem: (key: string, value: string) => void store.set(key, value),
      removeItem: (key: string) => void store.delete(key),
    },
  })
})

const job = (jobId: string, ...clockIds: string[]): JobClocks => ({
  jobId,
  number: 1,
  title: jobId,
  clocks: clockIds.map((clockId) => ({ clockId, what: 'hold', startedAt: 0, dueAt: 600_000 })),
})
const ids = (userId = 'u') => kept(userId).jobs.flatMap(({ clocks }) => clocks.map((each) => each.clockId))
const nothing = new Set<string>()

describe('what runs, on one device', () => {
  it('is what the server says, but for jobs that have something unsent', () => {
    seenOnPage('u', job('a', 'mine'), 0)
    heard('u', [job('b', 'theirs')], 0, new Set(['a']))
    expect(ids().sort()).toEqual(['mine', 'theirs'])
    heard('u', [job('b', 'theirs')], 0, nothing)
    expect(ids()).toEqual(['theirs'])
  })
  it('without signal it is what this device has seen, with its own offset; else what it took along', () => {
    takenAlong('u', [job('b', 'packed')])
    expect(ids()).toEqual(['packed'])
    // Seen since: a hold that was begun here, on a device whose clock is a quarter of a second ahead.
    seenOnPage('u', job('a', 'begun here'), 250)
    takenAlong('u', [job('b', 'packed'), job('c', 'long ended')])
    expect(ids().sort()).toEqual(['begun here', 'packed'])
    expect(kept('u')).toMatchObject({ offsetMs: 250 })
  })
  it('what was answered here does not come back while the answer is on its way', () => {
    heard('u', [job('a', 'hold')], 0, nothing)
    answered('u', 'hold')
    heard('u', [job('a', 'hold')], 0, new Set(['a']))
    expect(ids()).toEqual([])
  })
  it('calls for the jobs that were opened here, and keeps the range that only their page knows', () => {
    const clock = { clockId: 't', what: 'recover' as const, startedAt: 0, dueAt: 5, latestAt: 9 }
    seenOnPage('u', { ...job('a'), clocks: [clock] }, 250)
    expect(kept('u')).toMatchObject({ own: ['a'], offsetMs: 250 })
    heard(
      'u',
      [{ ...job('a'), clocks: [{ clockId: 't', what: 'recover', startedAt: 0, dueAt: null }] }],
      0,
      nothing,
    )
    expect(kept('u').jobs[0]!.clocks[0]).toMatchObject({ dueAt: 5, latestAt: 9 })
  })
  it('is one person’s: the next who signs in here sees nothing of it', () => {
    seenOnPage('u', job('a', 'mine'), 0)
    expect(ids('somebody else')).toEqual([])
  })
  it('what is damaged is nothing', () => {
    for (const damaged of [
      '{',
      '[]',
      '{"userId":"x"}',
      '{"userId":"x","own":[],"jobs":[null,{"jobId":"x"}]}',
    ]) {
      store.set('keg-clocks', damaged)
      expect(ids('x')).toEqual([])
    }
  })
})
