import type { EntryBodies, EntryKind } from './entry'
import type { NextStep } from '../asks/next'
import type { JobState, Stage, StageProgress } from './state'

/** What an entry refers to. Cylinders, systems and kit must be there before it is taken, and are locked while it is. */
export interface Refs {
  cylinders?: string[]
  systems?: string[]
  kit?: string[]
}

/** What a decision is about. */
export interface Decides {
  cylinderId?: string
  kitId?: string
}

/** The quantity of an entry's figure, for whoever reads and corrects it. */
export type FigureKind = 'weight' | 'pressure' | 'vacuum' | 'temperature' | 'volume'

/** An entry in today's version with its true time, as far as it is known. */
export interface Stamped<Body> {
  entryId: string
  /** Version in which it was written. */
  writtenAs: number
  time: number
  /** Its place in tape order: what came first where times are equal. */
  order: number
  body: Body
}

/** Everything that a kind of entry declares about itself. Nothing here may be left out: what does not apply is null. */
export interface KindRules<Body> {
  /** Version in which it is written today. */
  version: number
  /** Steps from each older version to the next: the first takes version 1. One fewer than the version. */
  upcast: ((body: never) => object)[]
  /** Cylinders and systems that it names. */
  refs: (body: Body) => Refs
  /** Where it makes an id of its own: pressed twice, two entries differ in it only. */
  ownId: (keyof Body & string) | null
  /** The figure that a correction changes. */
  figure: { quantity: FigureKind; key: keyof Body & string } | null
  /** It may be struck, or its figure put right. */
  correctable: boolean
  /** It may come after the close without a flag. */
  afterClose: boolean
  /** The cylinder or piece of kit that it decides on, while it is a decision that may be refused. */
  decides: ((body: Body) => Decides | null) | null
  fold: (state: JobState, body: Body, entry: Stamped<Body>) => void
}

/** What most kinds declare: written once, they name nothing, may be struck, and come before the close. */
export const PLAIN = {
  version: 1,
  upcast: [],
  refs: () => ({}),
  ownId: null,
  figure: null,
  correctable: true,
  afterClose: false,
  decides: null,
} as const satisfies Partial<KindRules<object>>

/** Keys that say something a machine acts on: an id, or a figure. */
type Telling<Body> = Extract<keyof Body, `${string}${'Id' | 'Mg' | 'Pa' | 'Ml' | 'K'}`>

/** A kind without ids and figures, by its fold alone. Bodies that have some must declare all. */
export function wordsOnly<Body>(
  fold: [Telling<Body>] extends [never] ? KindRules<Body>['fold'] : never,
  over: Partial<Pick<KindRules<Body>, 'correctable' | 'afterClose'>> = {},
): KindRules<Body> {
  return {
    version: 1,
    upcast: [],
    refs: () => ({}),
    ownId: null,
    figure: null,
    correctable: false,
    afterClose: false,
    decides: null,
    ...over,
    fold,
  }
}

/** A subject of the tape: its kinds, its part of the state, and its say in what follows from it. */
export interface Chapter<Bodies, Slice> {
  kinds: { [K in keyof Bodies]: KindRules<Bodies[K]> }
  blank: () => Slice
  /** What follows from its slice once all entries are in; done anew each time. */
  settle?: (state: JobState) => void
  /** What is under way and wants watching, before anything else. */
  underWay?: (state: JobState) => NextStep | undefined
  /** What comes next as far as this subject is concerned; undefined: the next chapter has the word. */
  next?: (state: JobState) => NextStep | undefined
  progress?: Partial<Record<Stage, (state: JobState) => StageProgress>>
}

export type AllKinds = { [K in EntryKind]: KindRules<EntryBodies[K]> }
