// Cylinders and systems that were made without signal: first, once, and with word of what became of them.
import 'fake-indexeddb/auto'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import type { Making, MakingOf } from '../room/making'
import { METRIC_UNITS } from '#core/units'
import { aBrowser } from '../../../testing/a-browser'
import { anEntry } from '../../../testing/an-entry'
import { Outbox } from './outbox'
import { allKept } from '../room/waiting-room'

let count = 0
let userId: string
let outbox: Outbox
let stop: () => void
/** What was asked for, in order. */
let asked: string[]
type Answer =
  | 'down'
  | 'forbidden'
  | 'page'
  | 'busy'
  | 'another'
  | 'nothing'
  | 'cut'
  | { became: string; label?: string; sentence?: string }
let answer: Answer
/** One that the server falls over. */
let poison: string | undefined

async function server(path: string, init?: RequestInit): Promise<Partial<Response>> {
  const json = new Headers({ 'content-type': 'application/json' })
  if (path !== '/made') {
    const { entries } = JSON.parse(String(init?.body)) as { entries: { entryId: string }[] }
    asked.push(...entries.map(({ entryId }) => entryId))
    return { ok: true, status: 200, headers: json, json: async () => ({ entries, refused: [] }) }
  }
  if (answer === 'down') throw new TypeError('no way to the server')
  const { makings } = JSON.parse(String(init?.body)) as { makings: { id: string }[] }
  asked.push(...makings.map(({ id }) => id))
  if (makings.some(({ id }) => id === poison)) return { ok: false, status: 500 }
  const status = { busy: 429, another: 409, forbidden: 403, page: 413 }[answer as string]
  const text = async () => (answer === 'page' ? '<html>Too large</html>' : 'Ask a technician to add it.')
  if (status) return { ok: false, status, text }
  if (answer === 'cut') return { ok: true, status: 200, json: async () => JSON.parse('{"made') as never }
  const made = answer === 'nothing' ? [] : makings.map(({ id }) => ({ id, ...(answer as object) }))
  return { ok: true, status: 200, json: async () => ({ made }) }
}

const aMaking = (): Omit<Making, 'userId'> & MakingOf => ({
  id: `gull-${++count}`,
  kind: 'cylinder',
  row: { label: 'Gull 4' } as never,
  typed: { label: 'Gull 4' },
  units: METRIC_UNITS,
  at: count,
})

function open() {
  outbox = new Outbox(userId)
  stop = outbox.start()
}
/** The page is loaded once more. */
async function reload() {
  stop()
  await allKept()
  open()
  await outbox.flush()
}

beforeEach(() => {
  aBrowser(server)
  userId = `user-${++count}`
  asked = []
  answer = { became: 'made' }
  poison = undefined
  open()
})
afterEach(() => {
  stop()
  vi.unstubAllGlobals()
})

const keptOf = async () => (await allKept()).makings.filter((each) => each.userId === userId)

it('goes before the notes that name it, in the order in which it was made, and once', async () => {
  answer = 'down'
  const [first, second] = [aMaking(), aMaking()]
  const note = anEntry('note', { text: `from ${first.id} into ${second.id}` })
  await outbox.make(second)
  await outbox.make(first)
  await outbox.put('job', [note])
  expect(asked).toEqual([])
  expect(outbox.snapshot()).toMatchObject({ signal: 'lost', kept: true })
  answer = { became: 'made' }
  await outbox.flush()
  expect(asked).toEqual([first.id, second.id, note.entryId])
  expect(await keptOf()).toEqual([])
  expect(outbox.snapshot()).toMatchObject({ signal: 'here', makings: [], renamed: [] })
})

it.each([
  ['busy', 'busy'],
  ['cut', 'lost'],
  ['nothing', 'failing'],
  ['another', 'another-person'],
] as const)('waits with its notes where the answer is %s, and says so', async (state, signal) => {
  answer = state
  const making = aMaking()
  const note = anEntry('note', { text: `into ${making.id}` })
  await outbox.make(making)
  await outbox.put('job', [note])
  await vi.waitFor(() => expect(outbox.snapshot().signal).toBe(signal))
  expect(asked).not.toContain(note.entryId)
  expect(outbox.snapshot().makings.map(({ id }) => id)).toEqual([making.id])
  expect(await keptOf()).toHaveLength(1)
})

it('is told by its new label until somebody has read it, whatever becomes of the page', async () => {
  answer = { became: 'renamed', label: 'Gull 4 (2)' }
  const making = aMaking()
  await outbox.make(making)
  await vi.waitFor(() => expect(outbox.snapshot().renamed).toEqual([[making.id, 'Gull 4 (2)']]))
  await reload()
  expect(outbox.snapshot()).toMatchObject({ makings: [], renamed: [[making.id, 'Gull 4 (2)']] })
  // It is made: nothing is sent again.
  expect(asked).toEqual([making.id])
  outbox.seenRenamed(making.id)
  expect(outbox.snapshot().renamed).toEqual([])
  await vi.waitFor(async () => expect(await keptOf()).toEqual([]))
})

it('that the server refuses stays with its reason, holds up nothing, and goes when it is thrown away', async () => {
  answer = { became: 'refused', sentence: 'Trainees add nothing.' }
  const [making, note] = [aMaking(), anEntry('note', { text: '' })]
  await outbox.make(making)
  await outbox.put('job', [note])
  expect(asked).toEqual([making.id, note.entryId])
  await reload()
  expect(outbox.snapshot()).toMatchObject({
    makings: [],
    makingsAside: [{ id: making.id, sentence: 'Trainees add nothing.' }],
  })
  await outbox.makeAgain(making.id)
  expect(outbox.snapshot().makingsAside).toHaveLength(1)
  answer = { became: 'made' }
  await outbox.makeAgain(making.id)
  expect(outbox.snapshot()).toMatchObject({ makings: [], makingsAside: [] })
  expect(await keptOf()).toEqual([])
  answer = { became: 'refused', sentence: 'There are too many.' }
  const other = aMaking()
  await outbox.make(other)
  await vi.waitFor(() => expect(outbox.snapshot().makingsAside).toHaveLength(1))
  await outbox.throwMakingAway(other.id)
  expect(await keptOf()).toEqual([])
})

it.each([
  ['forbidden', 'Ask a technician to add it.'],
  ['page', 'The server does not take it like this.'],
] as const)(
  'that is never taken, %s, is set aside with a sentence, each of several',
  async (state, sentence) => {
    answer = 'down'
    const [first, second] = [aMaking(), aMaking()]
    await outbox.make(first)
    await outbox.make(second)
    answer = state
    // One that was on its way found no server.
    await vi.waitFor(async () => {
      await outbox.flush()
      expect(outbox.snapshot()).toMatchObject({
        signal: 'here',
        makings: [],
        makingsAside: [
          { id: first.id, sentence },
          { id: second.id, sentence },
        ],
      })
    })
  },
)

it('that the server falls over holds up neither the others nor the notes that do not name it', async () => {
  answer = 'down'
  const [first, second, third] = [aMaking(), aMaking(), aMaking()]
  for (const each of [first, second, third]) await outbox.make(each)
  poison = second.id
  answer = { became: 'made' }
  const [about, other] = [
    anEntry('note', { text: `into ${second.id}` }),
    anEntry('note', { text: `into ${third.id}` }),
  ]
  await outbox.put('job', [about])
  await outbox.put('another job', [other])
  expect(asked).toContain(other.entryId)
  expect(asked).not.toContain(about.entryId)
  expect(outbox.snapshot()).toMatchObject({ signal: 'failing', makings: [{ id: second.id }] })
  poison = undefined
  await outbox.flush()
  await vi.waitFor(() => expect(asked).toContain(about.entryId))
  expect(outbox.snapshot()).toMatchObject({ signal: 'here', makings: [], waiting: [] })
})
