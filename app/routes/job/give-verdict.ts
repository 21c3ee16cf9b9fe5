import { TABLES } from '#core/refrigerants'
import type { VerdictAbout } from '#core/tape'
import { ENGINE_VERSION, type Verdict } from '#core/verdict'
import { type Draft, draft } from '~/tape/use-tape'

/** A verdict with the versions it was given by: it is never silently judged again. */
export function giveVerdict(about: VerdictAbout, verdict: Verdict): Draft {
  return draft('verdict-given', { about, verdict, engine: ENGINE_VERSION, tables: TABLES.version })
}
