import type { AllKinds, Chapter, FigureKind, Refs } from '../envelope/chapter'
import { against } from '../chapters/against'
import { charge } from '../chapters/charge'
import { evacuation } from '../chapters/evacuation'
import { job } from '../chapters/job'
import { kit } from '../chapters/kit'
import { leakTest } from '../chapters/leak-test'
import { oil } from '../chapters/oil'
import { programme } from '../chapters/programme'
import { readings } from '../chapters/readings'
import { recovery } from '../chapters/recovery'
import { repair } from '../chapters/repair'
import { retrofit } from '../chapters/retrofit'
import { transfer } from '../chapters/transfer'
import { verdicts } from '../chapters/verdicts'
import { watches } from '../chapters/watches'
import type { Entry, EntryKind } from '../envelope/entry'
import { NewerEntryError } from '../envelope/entry'

/** In the order of the run sheet: the first that has something to say of what comes next has the word. */
const LIST = {
  job,
  programme,
  transfer,
  recovery,
  retrofit,
  repair,
  leakTest,
  evacuation,
  oil,
  charge,
  readings,
  watches,
  kit,
  verdicts,
  against,
}

export const CHAPTERS: Chapter<object, object>[] = Object.values(LIST) as Chapter<object, object>[]

/** Every kind with its rules: a kind that no chapter declares does not compile. */
export const KINDS: AllKinds = {
  ...job.kinds,
  ...programme.kinds,
  ...transfer.kinds,
  ...recovery.kinds,
  ...repair.kinds,
  ...retrofit.kinds,
  ...leakTest.kinds,
  ...evacuation.kinds,
  ...oil.kinds,
  ...charge.kinds,
  ...readings.kinds,
  ...watches.kinds,
  ...kit.kinds,
  ...verdicts.kinds,
  ...against.kinds,
}

/** The version in which a kind is written today. */
export function versionOf(kind: EntryKind): number {
  return KINDS[kind].version
}

/**
 * A body in today's version of its kind.
 * @throws NewerEntryError when it was written by a newer Keg
 */
export function upcast(kind: EntryKind, version: number, body: Entry['body']): Entry['body'] {
  const rules = Object.hasOwn(KINDS, kind) ? KINDS[kind] : undefined
  if (!rules || version > rules.version)
    throw new NewerEntryError('This job has entries from a newer version of Keg: reload the page to get it.')
  const steps = rules.upcast.slice(version - 1) as ((body: object) => object)[]
  return steps.reduce((older, step) => step(older), body as object) as Entry['body']
}

/** Cylinders, systems and kit that an entry names, or that a correction puts in another's place. */
export function refsOf(entry: Entry): Required<Refs> {
  const [kind, version, body] =
    entry.kind === 'correction'
      ? [entry.body.kind, entry.body.version ?? 1, entry.body.body]
      : [entry.kind, entry.version, entry.body]
  if (body === null) return { cylinders: [], systems: [], kit: [] }
  const refs = KINDS[kind].refs(upcast(kind, version, body as Entry['body']) as never)
  return { cylinders: refs.cylinders ?? [], systems: refs.systems ?? [], kit: refs.kit ?? [] }
}

/** What an entry says, without the id that it makes: two presses of one button say the same. */
export function withoutOwnId(kind: EntryKind, body: object): object {
  const { ownId } = KINDS[kind]
  return ownId === null ? body : Object.fromEntries(Object.entries(body).filter(([key]) => key !== ownId))
}

/** The figure of a kind that may be put right. */
export function figureOf(kind: EntryKind): { quantity: FigureKind; key: string } | null {
  return Object.hasOwn(KINDS, kind) ? KINDS[kind].figure : null
}

/** What an entry says, in today's version; of a newer Keg, as it was written. */
export function bodyToday(entry: Entry): Entry['body'] {
  if (!Object.hasOwn(KINDS, entry.kind) || entry.version > versionOf(entry.kind)) return entry.body
  return upcast(entry.kind, entry.version, entry.body)
}
