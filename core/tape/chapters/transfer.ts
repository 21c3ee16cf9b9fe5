import type { Chapter, KindRules, Stamped } from '../envelope/chapter'
import { type JobState, raise } from '../envelope/state'
import {
  addWeighing,
  type Segment,
  type Transfer,
  type Use,
  type WeighMode,
  measure,
} from '../mass/weighings'
import { openTransfer } from '../envelope/open-transfer'

export interface TransferBodies {
  'cylinder-chosen': { cylinderId: string; use: Use; massMg: number | null }
  'cylinder-released': { cylinderId: string; use: Use }
  /** A transfer begins: the cylinder stands on the scale. */
  'run-started': {
    runId: string
    use: Use
    cylinderId: string
    scale: string
    mode: WeighMode
    weightMg: number
    /** What the scale counts in; missing: not known. */
    divisionMg?: number
    /** The piece of kit, and how far it may be off over its range. */
    scaleId?: string
    accuracyMg?: number
    /** Tare and what the books had in it, as its gross weight should be: a zeroed scale starts there. */
    bookedMg?: number
    /** Charging: what the hose is thought to keep. */
    hoseMg?: number
  }
  /** @param on the entry that put the cylinder on its scale; missing: the last one */
  'weight-noted': { runId: string; weightMg: number; on?: string }
  'scale-changed': {
    runId: string
    scale: string
    mode: WeighMode
    weightMg: number
    divisionMg?: number
    scaleId?: string
    accuracyMg?: number
    /** The valve was shut between the two: what they differ by is how far the scales disagree. */
    valveShut?: boolean
  }
  'run-ended': { runId: string; weightMg: number; hoseMg?: number; on?: string }
}

export interface TransferSlice {
  chosen: { cylinderId: string; use: Use; massMg: number | null }[]
  transfers: Transfer[]
  /** Weights and ends that came before the start of their transfer. */
  early: Early[]
}

interface Early {
  kind: 'weight-noted' | 'scale-changed' | 'run-ended'
  entry: Stamped<{ runId: string }>
}

type Weight = TransferBodies['weight-noted']
type Change = TransferBodies['scale-changed']
type End = TransferBodies['run-ended']

/** What the kinds of this chapter have in common. */
const WEIGHED = {
  refs: () => ({}),
  ownId: null,
  figure: { quantity: 'weight', key: 'weightMg' },
  correctable: true,
  afterClose: false,
  decides: null,
} as const satisfies Partial<KindRules<Weight>>

const same = (body: object) => body
const named = (scaleId: string | undefined) => (scaleId ? { kit: [scaleId] } : {})

export const transfer: Chapter<TransferBodies, TransferSlice> = {
  blank: () => ({ chosen: [], transfers: [], early: [] }),
  kinds: {
    'cylinder-chosen': {
      version: 1,
      upcast: [],
      refs: ({ cylinderId }) => ({ cylinders: [cylinderId] }),
      ownId: null,
      figure: null,
      correctable: true,
      afterClose: false,
      decides: ({ cylinderId }) => ({ cylinderId }),
      fold(state, { cylinderId, use, massMg }) {
        state.chosen = [...without(state, cylinderId, use), { cylinderId, use, massMg }]
      },
    },
    'cylinder-released': {
      version: 1,
      upcast: [],
      refs: ({ cylinderId }) => ({ cylinders: [cylinderId] }),
      ownId: null,
      figure: null,
      correctable: false,
      afterClose: false,
      decides: null,
      fold(state, { cylinderId, use }) {
        state.chosen = without(state, cylinderId, use)
      },
    },
    'run-started': {
      ...WEIGHED,
      version: 3,
      // Version 1 wrote a zeroed scale with or without its minus: the fold looks at the version. 2 named no kit.
      upcast: [same, same],
      refs: ({ cylinderId, scaleId }) => ({ cylinders: [cylinderId], ...named(scaleId) }),
      ownId: 'runId',
      decides: ({ cylinderId }) => ({ cylinderId }),
      fold: start,
    },
    'weight-noted': { ...WEIGHED, version: 2, upcast: [same], fold: weigh },
    'scale-changed': {
      ...WEIGHED,
      version: 3,
      upcast: [same, same],
      refs: ({ scaleId }) => named(scaleId),
      fold: changeScale,
    },
    'run-ended': { ...WEIGHED, version: 2, upcast: [same], fold: end },
  },
  settle(state) {
    for (const each of state.transfers) measure(each)
  },
  underWay(state) {
    const running = openTransfer(state)
    return running && (running.use === 'recover' ? 'note-weight' : 'charge-on')
  },
}

function start(state: JobState, body: TransferBodies['run-started'], entry: Stamped<object>) {
  const { runId, use, cylinderId, weightMg, bookedMg = null, hoseMg = 0 } = body
  const busy = state.transfers.some((each) => each.endedAt === undefined && each.cylinderId === cylinderId)
  if (busy) raise(state, 'two-at-once')
  state.stage = use
  const common = {
    transferId: runId,
    cylinderId,
    startedAt: entry.time,
    order: entry.order,
    bookedMg,
    segments: [segmentOf(body, entry)],
    weighings: [{ entryId: entry.entryId, at: entry.time, weightMg, segment: 0 }],
    amountMg: 0,
    sigmaMg: 0,
    grossMg: null,
    gaps: [],
    unseenMg: 0,
  }
  const opened: Transfer =
    use === 'recover' ? { ...common, use } : { ...common, use, hoseMg: 0, plannedHoseMg: hoseMg }
  state.transfers.push(opened)
  const waiting = state.early.filter(({ entry: { body: early } }) => early.runId === runId)
  state.early = state.early.filter((each) => !waiting.includes(each))
  for (const { kind, entry: early } of waiting)
    if (kind === 'weight-noted') weigh(state, early.body as Weight, early as Stamped<Weight>)
    else if (kind === 'scale-changed') changeScale(state, early.body as Change, early as Stamped<Change>)
    else end(state, early.body as End, early as Stamped<End>)
}

function weigh(state: JobState, body: Weight, entry: Stamped<Weight>) {
  const { runId, weightMg, on } = body
  const found = transferOf(state, runId, 'weight-noted', entry)
  if (!found) return
  if (found.endedAt !== undefined && entry.time > found.endedAt) raise(state, 'weight-after-end')
  addWeighing(found, { entryId: entry.entryId, at: entry.time, weightMg }, entry.order, on)
}

function changeScale(state: JobState, body: Change, entry: Stamped<Change>) {
  const found = transferOf(state, body.runId, 'scale-changed', entry)
  if (!found) return
  found.segments.push(segmentOf(body, entry))
  addWeighing(
    found,
    { entryId: entry.entryId, at: entry.time, weightMg: body.weightMg },
    entry.order,
    entry.entryId,
  )
}

function end(state: JobState, body: End, entry: Stamped<End>) {
  const found = transferOf(state, body.runId, 'run-ended', entry)
  if (!found) return
  addWeighing(
    found,
    { entryId: entry.entryId, at: entry.time, weightMg: body.weightMg },
    entry.order,
    body.on,
    true,
  )
  found.endedAt = entry.time
  if (found.use === 'charge') found.hoseMg = body.hoseMg ?? found.plannedHoseMg
}

function segmentOf(
  body: TransferBodies['run-started'] | Change,
  { entryId, writtenAs }: Stamped<object>,
): Segment {
  const { scale, mode, weightMg, divisionMg, scaleId, accuracyMg } = body
  return {
    openedBy: entryId,
    scale,
    mode,
    divisionMg: divisionMg ?? null,
    scaleId: scaleId ?? null,
    accuracyMg: accuracyMg ?? null,
    signed: writtenAs > 1,
    valveShut: 'valveShut' in body && body.valveShut === true,
    firstMg: weightMg,
    lastMg: weightMg,
    lowestMg: weightMg,
    highestMg: weightMg,
    fastestMgPerMs: 0,
  }
}

function transferOf(
  state: JobState,
  runId: string,
  kind: Early['kind'],
  entry: Stamped<{ runId: string }>,
): Transfer | undefined {
  const found = state.transfers.find((each) => each.transferId === runId)
  // By its id, whatever order their times are in: it waits for its start.
  if (!found) state.early.push({ kind, entry })
  return found
}

function without(state: JobState, cylinderId: string, use: Use) {
  return state.chosen.filter((each) => each.cylinderId !== cylinderId || each.use !== use)
}
