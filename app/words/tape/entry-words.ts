import { useMemo } from 'react'
import type { EntryBodies, EntryKind } from '#core/tape'
import { useShow } from '~/base/ui/reader'
import { against } from './against'
import { charge } from './charge'
import { evacuation } from './evacuation'
import { job } from './job'
import { kit } from './kit'
import { leakTest } from './leak-test'
import { oil } from './oil'
import { programme } from './programme'
import { readings } from './readings'
import { recovery } from './recovery'
import { repair } from './repair'
import { retrofit } from './retrofit'
import { transfer } from './transfer'
import { verdicts } from './verdicts'
import { watches } from './watches'
import type { AllWords, Say } from './say'

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
