import { type KitFacts, type KitKind, KINDS_OF_KIT } from '../../kit'
import type { Chapter } from '../envelope/chapter'

export interface KitBodies {
  /** From now on the job uses it. What it can tell is written down, so that the tape stands by itself. */
  'kit-used': { kitId: string; kind: KitKind; label: string; facts: KitFacts }
  'kit-set-aside': { kitId: string }
  /** The machine was not purged: it keeps about so much of what came out of the system. */
  'rig-kept': { kitId: string; massMg: number }
}

export interface UsedKit {
  kitId: string
  kind: KitKind
  label: string
  facts: KitFacts
  /** Time, and place in tape order. */
  since: number
  order: number
  until?: number
}

export interface KitSlice {
  /** All that the job ever used, in order. */
  kit: UsedKit[]
  rigKept: { entryId: string; kitId: string; massMg: number; at: number; order: number }[]
}

export const kit: Chapter<KitBodies, KitSlice> = {
  blank: () => ({ kit: [], rigKept: [] }),
  kinds: {
    'kit-used': {
      version: 1,
      upcast: [],
      refs: ({ kitId }) => ({ kit: [kitId] }),
      ownId: null,
      figure: null,
      correctable: true,
      afterClose: false,
      decides: ({ kitId }) => ({ kitId }),
      fold(state, { kitId, kind, label, facts }, { time, order }) {
        for (const each of state.kit)
          if (each.until === undefined && (each.kitId === kitId || replaces(kind, each.kind)))
            each.until = time
        state.kit.push({ kitId, kind, label, facts, since: time, order })
      },
    },
    'kit-set-aside': {
      version: 1,
      upcast: [],
      refs: ({ kitId }) => ({ kit: [kitId] }),
      ownId: null,
      figure: null,
      correctable: true,
      afterClose: false,
      decides: null,
      fold(state, { kitId }, { time }) {
        for (const each of state.kit) if (each.until === undefined && each.kitId === kitId) each.until = time
      },
    },
    'rig-kept': {
      version: 1,
      upcast: [],
      refs: ({ kitId }) => ({ kit: [kitId] }),
      ownId: null,
      figure: { quantity: 'weight', key: 'massMg' },
      correctable: true,
      afterClose: true,
      decides: null,
      fold(state, { kitId, massMg }, { entryId, time, order }) {
        state.rigKept.push({ entryId, kitId, massMg, at: time, order })
      },
    },
  },
}

/** Of machines and stations one pulls, of the others one of each kind is read. */
function replaces(kind: KitKind, other: KitKind): boolean {
  const pulls = (each: KitKind) => each === 'machine' || each === 'station'
  return (KINDS_OF_KIT[kind].oneAtATime && kind === other) || (pulls(kind) && pulls(other))
}
