// The outbox against a device store and a server that comes and goes.
import 'fake-indexeddb/auto'
import { deleteDB } from 'idb'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { Entry } from '#core/tape'
import { aBrowser } from '../../../testing/a-browser'
import { anEntry } from '../../../testing/an-entry'
import { makeEntry } from '~/tape/device'
import type { Sent } from './entries'
import { Outbox } from './outbox'
import { allKept, dropWaiting } from '../room/waiting-room'

let count = 0
const entry = (): Entry => anEntry('note', { text: `${++count}` })

type Answer =
  | 'down'
  | 'broken'
  | 'busy'
  | 'cut'
  | 'html'
  | 'signed-out'
  | 'another'
  | 'forbidden'
  | 'gone'
  | 'fine'
  | { refuse: string }
  | { never: number; because: string }
let answer: Answer = 'fine'
/** Jobs with an answer of their own. */
let answers: Record<string, Answer> = {}
const posted: string[][] = []

/** A server that takes entries, or does not. */
async function server(path: string, init?: RequestInit): Promise<Partial<Response>> {
  const { entries } = JSON.parse(String(init?.body)) as { entries: Entry[] }
  const answer = answerFor(path.split('/')[2]!)
  if (answer === 'down') throw new TypeError('no way to the server')
  posted.push(entries.map((e) => e.entryId))
  const json = new Headers({ 'content-type': 'application/json' })
  const status = { broken: 500, busy: 429, another: 409, forbidden: 403, gone: 404 }[answer as string]
  if (status) return { ok: false, status, headers: new Headers() }
  if (answer === 'signed-out') return { ok: true, status: 200, redirected: true, headers: new Headers() }
  if (answer === 'cut')
    return { ok: true, status: 200, headers: json, json: async () => JSON.parse('{"entr') as never }
  if (answer === 'html')
    return { ok: true, status: 200, headers: new Headers(), json: async () => JSON.parse('<') as never }
  if (typeof answer === 'object' && 'never' in answer && entries.some((e) => e.entryId === answer.because))
    return { ok: false, status: answer.never, headers: json }
  const refused =
    typeof answer === 'object' && 'refuse' in answer
      ? [{ entryId: answer.refuse, reasons: [{ code: 'full' }] }]
      : []
  const taken = entries.filter((e) => !refused.some((r) => r.entryId === e.entryId))
  return {
    ok: true,
    status: 200,
    redirected: false,
    headers: json,
    json: async () => ({ entries: taken, refused }),
  }
}

const answerFor = (jobId: string): Answer => answers[jobId] ?? answer

let stop: () => void
let outbox: Outbox
let sent: Sent[]

function open(userId: string) {
  outbox = new Outbox(userId, `Name of ${userId}`)
  sent = []
  outbox.onSent((s) => sent.push(s))
  stop = outbox.start()
}

beforeEach(() => {
  aBrowser(server)
  answer = 'fine'
  answers = {}
  posted.length = 0
  open(`user-${count}`)
})
afterEach(() => {
  stop()
  vi.unstubAllGlobals()
})

const waiting = () => outbox.snapshot().waiting.map((w) => w.entryId)
const aside = () => outbox.snapshot().aside.map((a) => [a.entryId, ...a.reasons.map((r) => r.code)])
const allWaiting = async (userId: string) => (await allKept()).waiting.filter((w) => w.userId === userId)

describe('Outbox', () => {
  it('sends at once, and keeps nothing of what was confirmed', async () => {
    const [a, b] = [entry(), entry()]
    await outbox.put('job', [a, b])
    expect(posted).toEqual([[a.entryId, b.entryId]])
    expect(sent.flatMap((s) => s.entries.map((e) => e.entryId))).toEqual([a.entryId, b.entryId])
    expect(waiting()).toEqual([])
    expect(outbox.snapshot()).toMatchObject({ signal: 'here', kept: true })
  })

  describe('on a device that cannot store another byte', () => {
    const quota = () => {
      throw new DOMException('full', 'QuotaExceededError')
    }
    /** A press: the entry is made here, as on every page. */
    const press = (text: string) => {
      const made = makeEntry('note', { text })
      return { made, put: outbox.put('job', [made]) }
    }
    beforeEach(() => {
      count++
      localStorage.setItem = quota
      vi.spyOn(IDBObjectStore.prototype, 'put').mockImplementation(quota)
    })
    afterEach(() => void vi.restoreAllMocks())

    it('a press goes straight to the server', async () => {
      const [first, second] = [press('oil is black'), press('acid in it')]
      await Promise.all([first.put, second.put])
      await vi.waitFor(() => expect(posted.flat()).toEqual([first.made.entryId, second.made.entryId]))
      // In the order in which they were made, of a device of its own.
      expect(second.made.deviceId).toBe(first.made.deviceId)
      expect(second.made.deviceSeq).toBe(first.made.deviceSeq + 1)
      expect(waiting()).toEqual([])
    })
    it('without signal it is in this page, and that is said until it is sent', async () => {
      answer = 'down'
      const { made, put } = press('oil is black')
      await put
      expect(waiting()).toEqual([made.entryId])
      expect(outbox.snapshot().kept).toBe(false)
      answer = 'fine'
      await outbox.flush()
      expect(posted.flat()).toContain(made.entryId)
      expect(waiting()).toEqual([])
    })
    it('a full threshold does not keep it out of a room that has some left', async () => {
      vi.restoreAllMocks()
      answer = 'down'
      const { made, put } = press('oil is black')
      await put
      expect(outbox.snapshot().kept).toBe(true)
      expect((await allWaiting(`user-${count - 1}`)).map((each) => each.entryId)).toEqual([made.entryId])
    })
  })

  it.each([
    ['down', 'lost'],
    ['broken', 'failing'],
    ['busy', 'busy'],
    ['cut', 'lost'],
    ['html', 'lost'],
  ] as const)('keeps entries in order while the answer is %s, and says so truly', async (state, signal) => {
    answer = state
    const entries = [entry(), entry(), entry()]
    for (const each of entries) await outbox.put('job', [each])
    expect(waiting()).toEqual(entries.map((e) => e.entryId))
    expect(outbox.snapshot().signal).toBe(signal)
    posted.length = 0
    answer = 'fine'
    await outbox.flush()
    expect(posted).toEqual([entries.map((e) => e.entryId)])
    expect(outbox.snapshot()).toMatchObject({ signal: 'here', waiting: [] })
  })

  it('takes up what an earlier page left behind, its own person only', async () => {
    answer = 'down'
    const mine = entry()
    await outbox.put('job', [mine])
    stop()
    const userId = (await allOf()).find((w) => w.entryId === mine.entryId)!.userId
    answer = 'fine'
    open('somebody else')
    await settle()
    expect(posted).toEqual([])
    stop()
    open(userId)
    await settle()
    expect(posted).toEqual([[mine.entryId]])
    expect(await allWaiting(userId)).toEqual([])

    async function allOf() {
      return allWaiting(outbox.snapshot().waiting[0]!.userId)
    }
  })

  it('finds an entry again that was made a moment before the page was left', async () => {
    answer = 'down'
    const each = entry()
    const made = outbox.put('job', [each])
    // Nothing has been waited for yet: what is on the device now is all that a new page has.
    const { userId } = outbox.snapshot().waiting[0]!
    expect(Object.keys(localStorage).filter((key) => key.includes(each.entryId))).toHaveLength(1)
    await made
    expect(Object.keys(localStorage).filter((key) => key.includes(each.entryId))).toHaveLength(0)
    expect((await allWaiting(userId)).map((w) => w.entryId)).toEqual([each.entryId])
  })

  it('says without signal what waits on the device, and not only what was noted in this tab', async () => {
    stop()
    let heard = (_: object) => {}
    const addEventListener = (name: string, hear: typeof heard) => name === 'storage' && (heard = hear)
    vi.stubGlobal('window', { addEventListener, removeEventListener() {} })
    const [here, there] = [entry(), entry()]
    open(`user-${count}`)
    answer = 'down'
    await outbox.put('job', [here])
    const other = new Outbox(`user-${count}`, 'The other tab')
    await other.put('job', [there])
    expect(waiting()).toEqual([here.entryId])
    heard({ key: `keg-waiting ${there.entryId}`, newValue: '{}' })
    await expect.poll(waiting).toEqual([here.entryId, there.entryId])
    other.stop()
  })

  it('says when the session has ended, and goes on after it', async () => {
    answer = 'signed-out'
    const each = entry()
    await outbox.put('job', [each])
    expect(outbox.snapshot().signal).toBe('signed-out')
    answer = 'fine'
    await outbox.flush()
    expect(waiting()).toEqual([])
  })

  it('sets aside what is refused, with what was noted and why, and takes the rest', async () => {
    const [good, bad] = [entry(), entry()]
    answer = { refuse: bad.entryId }
    await outbox.put('job', [good, bad])
    expect(sent).toEqual([{ jobId: 'job', entries: [good] }])
    expect(waiting()).toEqual([])
    expect(aside()).toEqual([[bad.entryId, 'full']])
  })

  it('still has it after a reload, sends it again changed, or throws it away by a press', async () => {
    const [first, second] = [entry(), entry()]
    answer = 'forbidden'
    await outbox.put('job', [first])
    await outbox.put('job', [second])
    expect(aside()).toEqual([
      [first.entryId, 'not-allowed'],
      [second.entryId, 'not-allowed'],
    ])
    const { userId } = outbox.snapshot().aside[0]!
    stop()
    open(userId)
    await expect.poll(aside).toHaveLength(2)
    answer = 'fine'
    const changed = { ...first, entryId: `${first.entryId}-changed` }
    await outbox.sendAgain(
      outbox.snapshot().aside.find((a) => a.entryId === first.entryId)!,
      changed,
    )
    expect(posted.at(-1)).toEqual([changed.entryId])
    await outbox.throwAway(second.entryId)
    expect(aside()).toEqual([])
    expect((await allKept()).aside.filter((a) => a.userId === userId)).toEqual([])
  })

  it.each([400, 413, 422])(
    'finds the one for which the server answers %i, and takes the others',
    async (status) => {
      answer = 'down'
      const entries = Array.from({ length: 9 }, entry)
      await outbox.put('job', entries)
      const bad = entries[6]!.entryId
      answer = { never: status, because: bad }
      await outbox.flush()
      expect(waiting()).toEqual([])
      expect(aside()).toEqual([[bad, status === 413 ? 'too-large' : 'malformed']])
      expect(sent.flatMap((s) => s.entries)).toHaveLength(8)
    },
  )

  it.each(['broken', 'busy', 'gone', 'cut', 'forbidden'] as const)(
    'one job that is %s does not hold up the others',
    async (state) => {
      answers = { stuck: state }
      const [stuck, free] = [entry(), entry()]
      await outbox.put('stuck', [stuck])
      await outbox.put('free', [free])
      expect(sent.flatMap((s) => s.entries)).toEqual([free])
      const kept = [...waiting(), ...aside().map(([id]) => id)]
      expect(kept).toEqual([stuck.entryId])
    },
  )

  it('stops at once when somebody else has signed in, and sends nothing in their name', async () => {
    answers = { job: 'another' }
    const each = entry()
    await outbox.put('job', [each])
    expect(outbox.snapshot().signal).toBe('another-person')
    posted.length = 0
    answers = {}
    await outbox.flush()
    await outbox.put('job', [entry()])
    expect(posted).toEqual([])
    expect(waiting()).toHaveLength(2)
    const mine = outbox.snapshot().waiting[0]!.userId
    stop()
    open('the next one')
    await expect.poll(() => outbox.snapshot().others).toContainEqual({ name: `Name of ${mine}`, count: 2 })
    expect(waiting()).toEqual([])
  })

  it('is not wedged by what an earlier page left broken, and shows it', async () => {
    stop()
    localStorage.setItem('keg-waiting cut', '{"entryId":"cut","jo')
    localStorage.setItem(
      'keg-waiting odd',
      JSON.stringify({ entryId: 'odd', jobId: 'job', userId: 'u', entry: null }),
    )
    open('u')
    await expect.poll(aside).toEqual([
      ['cut', 'unreadable'],
      ['odd', 'unreadable'],
    ])
    const each = entry()
    await outbox.put('job', [each])
    expect(posted).toEqual([[each.entryId]])
    await outbox.throwAway('cut')
    await outbox.throwAway('odd')
    expect((await allKept()).aside.map((a) => a.entryId)).not.toContain('cut')
  })

  it('sends each job its own, and long queues in batches', async () => {
    answer = 'down'
    const long = Array.from({ length: 450 }, entry)
    await outbox.put('long', long)
    const other = entry()
    await outbox.put('other', [other])
    posted.length = 0
    answer = 'fine'
    await outbox.flush()
    expect(posted.flat().sort()).toEqual([...long, other].map((e) => e.entryId).sort())
    expect(Math.max(...posted.map((batch) => batch.length))).toBe(200)
    const order = posted.flat().filter((id) => id !== other.entryId)
    expect(order).toEqual(long.map((e) => e.entryId))
  })

  it('tells whoever looks at it, and nobody after they left', async () => {
    const tell = vi.fn()
    const leave = outbox.subscribe(tell)
    await outbox.put('job', [entry()])
    expect(tell).toHaveBeenCalled()
    leave()
    tell.mockClear()
    await outbox.put('job', [entry()])
    expect(tell).not.toHaveBeenCalled()
  })

  it('sends all the same while an older page in another tab holds the store, and finds it again after', async () => {
    stop()
    vi.resetModules()
    await new Promise((resolve) => (indexedDB.deleteDatabase('keg').onsuccess = resolve))
    const older = await new Promise<IDBDatabase>((resolve) => {
      const asked = indexedDB.open('keg', 1)
      asked.onupgradeneeded = () => asked.result.createObjectStore('waiting', { keyPath: 'entryId' })
      asked.onsuccess = () => resolve(asked.result)
    })
    const fresh = new (await import('./outbox')).Outbox('held up')
    const each = entry()
    await fresh.put('job', [each])
    expect(posted).toEqual([[each.entryId]])
    expect(fresh.snapshot()).toMatchObject({ kept: false, waiting: [] })
    older.close()
    answer = 'down'
    const noted = async () => {
      await fresh.put('job', [entry()])
      return fresh.snapshot()
    }
    await expect.poll(noted).toMatchObject({ kept: true, signal: 'lost' })
    fresh.stop()
  })

  it('sends all the same when the device keeps nothing, and says so', async () => {
    vi.spyOn(IDBObjectStore.prototype, 'put').mockImplementation(() => {
      throw new DOMException('no room', 'QuotaExceededError')
    })
    try {
      answer = 'down'
      const each = entry()
      await outbox.put('job', [each])
      expect(outbox.snapshot()).toMatchObject({ kept: false, signal: 'lost' })
      answer = 'fine'
      await outbox.flush()
      expect(posted).toEqual([[each.entryId]])
    } finally {
      vi.restoreAllMocks()
    }
  })
})

describe('the waiting room', () => {
  it('forgets what is dropped, and does not mind what is not there', async () => {
    await dropWaiting(['never there'])
    expect(await allWaiting('nobody')).toEqual([])
  })
})

/** Until everything that was begun has been done. */
async function settle() {
  for (let i = 0; i < 20; i++) await new Promise((resolve) => setTimeout(resolve, 2))
}

it('keeps anew what the page has where the browser has thrown its store away', async () => {
  answer = 'down'
  const note = entry()
  await outbox.put('job', [note])
  await deleteDB('keg')
  await vi.waitFor(async () =>
    expect((await allWaiting(outbox.userId)).map(({ entryId }) => entryId)).toEqual([note.entryId]),
  )
  expect(outbox.snapshot()).toMatchObject({ kept: true, signal: 'lost' })
})
