import type { Entry } from '#core/tape'
import type { Making } from '../room/making'
import { fromText, packIn } from './pack'
import { keepFor, type Kept, keptFor, onPacksGone } from './store'

/** Sessions end after two weeks: what is older opens nothing any more. */
const OLDEST_MS = 14 * 86_400_000

interface Keeping {
  userId: string
  kept: Kept | undefined
  /** The browser keeps it; without, it is there as long as the page is. */
  stored: boolean
}

let now: Promise<Keeping> | undefined
const listeners = new Set<() => void>()
/** Whether what should be kept could not be: full, or a private window; undefined: nothing was tried yet. */
let storing: boolean | undefined

// Whoever is here goes on with what the page has, and it is kept anew.
onPacksGone(() => void now?.then(store))

export const storesHere = () => storing

export function subscribeToKeeping(tell: () => void): () => void {
  listeners.add(tell)
  return () => listeners.delete(tell)
}

/** What this device has for a person; read once, and then as it is in memory. */
async function keepingOf(userId: string): Promise<Keeping> {
  const known = now
  if (known && (await known).userId === userId) return known
  // Somebody else asked meanwhile: both get the same.
  if (known !== now) return keepingOf(userId)
  now = keptFor(userId).then(
    (kept) => ({ userId, kept, stored: true }),
    () => ({ userId, kept: undefined, stored: false }),
  )
  return now
}

/** @returns undefined: nothing, or nothing that is not too old */
export async function packOf(userId: string): Promise<Kept | undefined> {
  const { kept } = await keepingOf(userId)
  return kept && Date.now() - kept.heardAt < OLDEST_MS ? kept : undefined
}

/** Opens what was locked here when this person left; undefined: neither this device nor the server can say now. */
export async function deviceKeyOf(userId: string): Promise<string | undefined> {
  const known = async () => (await packOf(userId))?.pack.person.deviceKey
  return (await known()) ?? ((await refresh(userId)) ? known() : undefined)
}

/** What the server has confirmed of a job, so that it is not missing before the pack is fetched anew. */
export async function learn(userId: string, jobId: string, entries: Entry[]): Promise<void> {
  const keeping = await keepingOf(userId)
  if (!keeping.kept || entries.length === 0) return
  const before = keeping.kept.learned[jobId] ?? []
  const known = new Set(before.map((each) => each.entryId))
  const fresh = entries.filter((each) => !known.has(each.entryId))
  if (fresh.length === 0) return
  keeping.kept = {
    ...keeping.kept,
    learned: { ...keeping.kept.learned, [jobId]: [...before, ...fresh] },
  }
  await store(keeping)
}

/** The server has what was made here: it is not missing before the pack is fetched anew. @param label that it has there */
export async function learnMade(userId: string, { kind, id, row }: Making, label?: string): Promise<void> {
  const keeping = await keepingOf(userId)
  if (!keeping.kept) return
  const { pack } = keeping.kept
  if (kind === 'cylinder' && !pack.cylinders.some((each) => each.cylinderId === id)) {
    const known = { ...row, ...(label !== undefined && { label }) }
    keeping.kept = { ...keeping.kept, pack: { ...pack, cylinders: [...pack.cylinders, known] } }
  } else if (kind === 'system' && !pack.systems.some((each) => each.systemId === id))
    keeping.kept = { ...keeping.kept, pack: { ...pack, systems: [...pack.systems, row] } }
  await store(keeping)
}

/**
 * Fetches what has changed. What was learned while it was on its way stays beside it.
 * @returns whether an answer came
 */
export async function refresh(userId: string): Promise<boolean> {
  const keeping = await keepingOf(userId)
  const mark = keeping.kept?.mark
  const learnedBefore = keeping.kept?.learned ?? {}
  let response: Response
  let text: string
  try {
    response = await fetch('/pack', { headers: mark ? { 'if-none-match': mark } : {} })
    text = await response.text()
  } catch {
    // No signal: what is kept stays.
    return false
  }
  if (response.redirected || (!response.ok && response.status !== 304)) return false
  if ((await now) !== keeping) return true
  const at = Number(response.headers.get('keg-time'))
  if (response.status === 304 && keeping.kept) {
    keeping.kept = {
      ...keeping.kept,
      pack: { ...keeping.kept.pack, at },
      heardAt: Date.now(),
      learned: since(keeping.kept, learnedBefore),
    }
  } else {
    const pack = packIn(read(text))
    // A newer server, or somebody else's word in between: this program goes on with what it has.
    if (!pack || pack.person.userId !== userId) return false
    const learned = keeping.kept ? since(keeping.kept, learnedBefore) : {}
    keeping.kept = { pack, mark: response.headers.get('etag') ?? '', heardAt: Date.now(), learned }
  }
  await store(keeping)
  return true
}

/** What was learned after the server had been asked. */
function since({ learned }: Kept, before: Kept['learned']): Kept['learned'] {
  return Object.fromEntries(
    Object.entries(learned).flatMap(([jobId, entries]) => {
      const known = new Set((before[jobId] ?? []).map((each) => each.entryId))
      const rest = entries.filter((each) => !known.has(each.entryId))
      return rest.length > 0 ? [[jobId, rest]] : []
    }),
  )
}

function read(text: string): unknown {
  try {
    return fromText(text)
  } catch {
    return undefined
  }
}

async function store(keeping: Keeping): Promise<void> {
  try {
    if (keeping.kept) await keepFor(keeping.userId, keeping.kept)
    keeping.stored = true
  } catch {
    keeping.stored = false
  }
  storing = keeping.stored
  for (const tell of listeners) tell()
}
