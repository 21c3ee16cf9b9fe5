import { useMemo } from 'react'
import type { EntryBodies, EntryKind } from '#core/tape'
import { useShow } from '~/ui/reader'
import { against } from './chapters/against.words'
import { charge } from './chapters/charge.words'
import { evacuation } from './chapters/evacuation.words'
import { job } from './chapters/job.words'
import { kit } from './chapters/kit.words'
import { leakTest } from './chapters/leak-test.words'
import { oil } from './chapters/oil.words'
import { programme } from './chapters/programme.words'
import { readings } from './chapters/readings.words'
import { recovery } from './chapters/recovery.words'
import { repair } from './chapters/repair.words'
import { retrofit } from './chapters/retrofit.words'
import { transfer } from './chapters/transfer.words'
import { verdicts } from './chapters/verdicts.words'
import { watches } from './chapters/watches.words'
import type { AllWords, Say } from './chapters/words'

const WORDS: AllWords = {
  ...job,
  ...programme,
  ...transfer,
  ...recovery,
  ...repair,
  ...retrofit,
  ...leakTest,
  ...evacuation,
  ...oil,
  ...charge,
  ...readings,
  ...watches,
  ...kit,
  ...verdicts,
  ...against,
}

export interface Names {
  cylinder: (cylinderId: string) => string | undefined
  system: (systemId: string) => string | undefined
}

const NOBODY_KNOWS: Names = { cylinder: () => undefined, system: () => undefined }

/** An entry as one line of the tape. @param names of what it is about, where they are known */
export function entryWords(
  show: Say['show'],
  names: Names = NOBODY_KNOWS,
): (kind: EntryKind, body: EntryBodies[EntryKind]) => string {
  const say: Say = {
    show,
    cylinder: (id) => names.cylinder(id) ?? 'a cylinder',
    system: (id) => names.system(id) ?? 'chosen',
  }
  return (kind, body) => (WORDS[kind] as (body: EntryBodies[EntryKind], say: Say) => string)(body, say)
}

/** The same in the reader's units. */
export function useEntryWords(
  names: Names = NOBODY_KNOWS,
): (kind: EntryKind, body: EntryBodies[EntryKind]) => string {
  const show = useShow()
  return useMemo(() => entryWords(show, names), [show, names])
}
