import type { Verdict } from '../../verdict'
import { type Chapter, PLAIN } from '../envelope/chapter'
import type { EntryKind } from '../envelope/entry'

export type VerdictAbout = 'recovery' | 'hold' | 'charge' | 'readings'

export interface VerdictBodies {
  'verdict-given': { about: VerdictAbout; verdict: Verdict; engine: number; tables: number }
  'verdict-overruled': { entryId: string; reason: string }
  /** `kind` is that of the entry corrected; `body` replaces its body, null strikes it. */
  correction: {
    entryId: string
    kind: EntryKind
    body: Record<string, unknown> | null
    reason: string
    /** Version of `body`; missing: 1. */
    version?: number
  }
}

export interface GivenVerdict {
  entryId: string
  at: number
  about: VerdictAbout
  verdict: Verdict
  /** Version of the judging code that gave it. */
  engine: number
  overruled?: string
}

export interface VerdictSlice {
  verdicts: GivenVerdict[]
  /** Overrulings that came before their verdict. */
  overruledEarly: Record<string, string>
}

function withRule({ verdict, ...body }: object & { verdict?: object }): object {
  const { source, ...rest } = (verdict ?? {}) as { source?: unknown }
  return { ...body, verdict: { ...rest, rule: { code: 'in-words', words: String(source ?? '') } } }
}

export const verdicts: Chapter<VerdictBodies, VerdictSlice> = {
  blank: () => ({ verdicts: [], overruledEarly: {} }),
  kinds: {
    'verdict-given': {
      ...PLAIN,
      version: 2,
      // Version 1 had its rule in words.
      upcast: [withRule],
      correctable: false,
      fold(state, { about, verdict, engine }, { entryId, time }) {
        const overruled = state.overruledEarly[entryId]
        state.verdicts.push({
          entryId,
          at: time,
          about,
          verdict,
          engine,
          ...(overruled === undefined ? {} : { overruled }),
        })
      },
    },
    'verdict-overruled': {
      version: 1,
      upcast: [],
      refs: () => ({}),
      ownId: null,
      figure: null,
      correctable: false,
      afterClose: true,
      decides: null,
      fold(state, { entryId, reason }) {
        const given = state.verdicts.find((each) => each.entryId === entryId)
        if (given) given.overruled = reason
        else state.overruledEarly[entryId] = reason
      },
    },
    correction: {
      version: 1,
      upcast: [],
      refs: () => ({}),
      ownId: null,
      figure: null,
      correctable: false,
      afterClose: true,
      decides: null,
      // Applied before anything is folded: it counts wherever it stands.
      fold() {},
    },
  },
}
