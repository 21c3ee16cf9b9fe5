import type { EntryBodies } from '#core/tape'
import type { MeasureKind } from '~/base/ui/measure'

/** What a line of the tape needs to speak: figures in the reader's units, names of cylinders and systems. */
export interface Say {
  show: (kind: MeasureKind, value: number, atmospherePa?: number) => string
  cylinder: (cylinderId: string) => string
  system: (systemId: string) => string
}

/** The words of the kinds of one chapter: a kind without them does not compile. */
export type Words<Bodies> = { [K in keyof Bodies]: (body: Bodies[K], say: Say) => string }
export type AllWords = Words<EntryBodies>
