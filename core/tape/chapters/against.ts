import { type Chapter, PLAIN } from '../envelope/chapter'

export interface AgainstBodies {
  /**
   * Written by the server: something was done without signal that it would have refused, or that does not go together with what
   * others did meanwhile. It stands as what happened.
   * @param entryId the note of it @param jobs numbers of other jobs that had the cylinder at the time
   */
  'found-against': { entryId: string; cylinderId: string | null; codes: string[]; jobs: number[] }
  /** Somebody has looked, and says how it was. @param entryId of the finding */
  'against-settled': { entryId: string; text: string }
}

/** Something that stands against the rules or the books, as long as nobody has said how it was. */
export interface Against {
  /** Of the finding. */
  entryId: string
  /** The note that it is about. */
  of: string
  cylinderId: string | null
  codes: string[]
  /** Numbers of the other jobs that had the cylinder. */
  jobs: number[]
  settled?: { text: string; at: number }
}

export interface AgainstSlice {
  against: Against[]
}

export const against: Chapter<AgainstBodies, AgainstSlice> = {
  blank: () => ({ against: [] }),
  kinds: {
    'found-against': {
      ...PLAIN,
      correctable: false,
      afterClose: true,
      fold(state, { entryId: of, cylinderId, codes, jobs }, { entryId }) {
        state.against.push({ entryId, of, cylinderId, codes, jobs })
      },
    },
    'against-settled': {
      ...PLAIN,
      correctable: false,
      afterClose: true,
      fold(state, { entryId, text }, { time }) {
        const found = state.against.find((each) => each.entryId === entryId)
        if (found) found.settled ??= { text, at: time }
      },
    },
  },
  settle(state) {
    // A note that was struck did not happen.
    const struck = new Set(state.lines.filter((line) => line.struck).map((line) => line.entry.entryId))
    state.against = state.against.filter(({ of }) => !struck.has(of))
  },
}
