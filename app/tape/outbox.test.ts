// The outbox against a device store and a server that comes and goes.
import 'fake-indexeddb/auto'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { Entry } from '#core/tape'
import { Outbox, type Sent } from './outbox'
import { allWaiting, dropWaiting } from './waiting-room'

let count = 0
const entry = (): Entry =>
  ({
    entryId: `e${++count}`,
    kind: 'note',
    version: 1,
    at: count,
    deviceId: 'd',
    deviceSeq: count,
    body: { text: `${count}` },
  }) as Entry

type Answer = 'down' | 'broken' | 'signed-out' | 'forbidden' | 'fine' | { refuse: string }
let answer: Answer = 'fine'
const posted: string[][] = []

/** A server that takes entries, or does not. */
async function server(_path: string, init: RequestInit): Promise<Partial<Response>> {
  const { entries } = JSON.parse(String(init.body)) as { entries: Entry[] }
  if (answer === 'down') throw new TypeError('no way to the server')
  posted.push(entries.map((e) => e.entryId))
  const json = new Headers({ 'content-type': 'application/json' })
  if (answer === 'broken') return { ok: false, status: 500, headers: new Headers() }
  if (answer === 'signed-out') return { ok: true, status: 200, redirected: true, headers: new Headers() }
  if (answer === 'forbidden') return { ok: false, status: 403, headers: json }
  const refused = typeof answer === 'object' ? [{ entryId: answer.refuse, reasons: [{ code: 'full' }] }] : []
  const taken = entries.filter((e) => !refused.some((r) => r.entryId === e.entryId))
  return {
    ok: true,
    status: 200,
    redirected: false,
    headers: json,
    json: async () => ({ entries: taken, refused }),
  }
}

let stop: () => void
let outbox: Outbox
let sent: Sent[]

/** What a browser keeps at once, without waiting. */
function storage(): Storage {
  const methods = {
    getItem: (key: string) => kept[key] ?? null,
    setItem,
    removeItem: (key: string) => delete kept[key],
  }
  const kept: Record<string, string> = Object.create(methods) as Record<string, string>
  function setItem(key: string, value: string) {
    kept[key] = value
  }
  return kept as unknown as Storage
}

function open(userId: string) {
  outbox = new Outbox(userId)
  sent = []
  outbox.onSent((s) => sent.push(s))
  stop = outbox.start()
}

beforeEach(() => {
  vi.stubGlobal('window', { addEventListener() {}, removeEventListener() {} })
  vi.stubGlobal('fetch', server)
  vi.stubGlobal('localStorage', storage())
  answer = 'fine'
  posted.length = 0
  open(`user-${count}`)
})
afterEach(() => {
  stop()
  vi.unstubAllGlobals()
})

const waiting = () => outbox.snapshot().waiting.map((w) => w.entryId)

describe('Outbox', () => {
  it('sends at once, and keeps nothing of what was confirmed', async () => {
    const [a, b] = [entry(), entry()]
    await outbox.put('job', [a, b])
    expect(posted).toEqual([[a.entryId, b.entryId]])
    expect(sent.flatMap((s) => s.entries.map((e) => e.entryId))).toEqual([a.entryId, b.entryId])
    expect(waiting()).toEqual([])
    expect(outbox.snapshot()).toMatchObject({ signal: 'here', kept: true })
  })

  it.each(['down', 'broken'] as const)('keeps entries in order while the server is %s', async (state) => {
    answer = state
    const entries = [entry(), entry(), entry()]
    for (const each of entries) await outbox.put('job', [each])
    expect(waiting()).toEqual(entries.map((e) => e.entryId))
    expect(outbox.snapshot().signal).toBe('lost')
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

  it('says when the session has ended, and goes on after it', async () => {
    answer = 'signed-out'
    const each = entry()
    await outbox.put('job', [each])
    expect(outbox.snapshot().signal).toBe('signed-out')
    answer = 'fine'
    await outbox.flush()
    expect(waiting()).toEqual([])
  })

  it('gives back what is refused, with what was noted and why, and takes the rest', async () => {
    const [good, bad] = [entry(), entry()]
    answer = { refuse: bad.entryId }
    await outbox.put('job', [good, bad])
    expect(sent).toEqual([
      { jobId: 'job', entries: [good], refused: [{ entry: bad, reasons: [{ code: 'full' }] }] },
    ])
    expect(waiting()).toEqual([])
  })

  it('does not knock for ever at a door that stays shut', async () => {
    answer = 'forbidden'
    const each = entry()
    await outbox.put('job', [each])
    expect(sent[0]!.refused).toEqual([{ entry: each, reasons: [{ code: 'not-allowed' }] }])
    expect(waiting()).toEqual([])
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
