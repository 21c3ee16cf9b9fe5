import { type Entry, type EntryBodies, type EntryKind, inTapeOrder, upcast } from './entry'
import type { JobState, Run, TapeLine } from './state'

/** Changes with every change of the fold: projections made with another one are rebuilt. */
export const FOLD_VERSION = 1

/**
 * The state of a job: a pure function of its entries, whatever order they arrived in and however often.
 * @throws NewerEntryError when the tape holds entries of a newer version
 */
export function foldTape(entries: readonly Entry[]): JobState {
  const lines = corrected(inOrder(entries))
  const state = blank(lines)
  for (const line of lines) {
    if (line.struck) continue
    const { entry } = line
    if (state.closedAt !== undefined && !AFTER_THE_CLOSE.has(entry.kind)) flag(state, 'noted-after-close')
    apply(state, entry, line.body)
    state.lastAt = Math.max(state.lastAt, entry.at)
  }
  for (const run of state.runs) run.amountMg = amountOf(run)
  state.recoveredMg = total(state.runs, 'recover')
  state.chargedMg = total(state.runs, 'charge')
  return state
}

const AFTER_THE_CLOSE = new Set<EntryKind>([
  'correction',
  'job-reopened',
  'note',
  'verdict-overruled',
  'gas-judged',
])

function inOrder(entries: readonly Entry[]): Entry[] {
  const once = new Map<string, Entry>()
  for (const entry of entries) {
    const known = once.get(entry.entryId)
    // A copy that the server has numbered tells more than the one still waiting on the device.
    if (!known || (known.seq === undefined && entry.seq !== undefined)) once.set(entry.entryId, upcast(entry))
  }
  return [...once.values()].sort(inTapeOrder)
}

/** Lines with the last correction of each applied; a correction counts wherever in the tape it stands. */
function corrected(entries: Entry[]): TapeLine[] {
  const last = new Map<string, Entry & { kind: 'correction' }>()
  for (const entry of entries) if (entry.kind === 'correction') last.set(entry.body.entryId, entry)
  return entries.map((entry) => {
    const by = last.get(entry.entryId)
    if (!by || by.body.kind !== entry.kind || entry.kind === 'correction')
      return { entry, body: entry.body, struck: false }
    const struck = by.body.body === null
    return { entry, body: struck ? entry.body : (by.body.body as Entry['body']), struck, correctedBy: by }
  })
}

function blank(lines: TapeLine[]): JobState {
  const first = lines[0]?.entry.at ?? 0
  return {
    status: 'open',
    stage: 'prepare',
    title: '',
    systemId: null,
    refrigerant: null,
    openedAt: first,
    lastAt: first,
    chosen: [],
    runs: [],
    recoveredMg: 0,
    chargedMg: 0,
    recoveryEnds: [],
    gas: {},
    pressures: {},
    temperatures: {},
    vacuum: [],
    holds: [],
    leakChecks: [],
    oil: { outMl: 0, partsMl: 0, inMl: 0, noted: false },
    steps: [],
    verdicts: [],
    waitingFor: '',
    flags: [],
    lines,
  }
}

function apply(state: JobState, entry: Entry, body: Entry['body']) {
  const handler = HANDLERS[entry.kind] as (state: JobState, body: Entry['body'], entry: Entry) => void
  handler(state, body, entry)
}

type Handlers = { [K in EntryKind]: (state: JobState, body: EntryBodies[K], entry: Entry) => void }

const HANDLERS: Handlers = {
  'job-described'(state, { title, systemId, refrigerant }) {
    if (title !== undefined) state.title = title
    if (systemId !== undefined) state.systemId = systemId
    if (refrigerant !== undefined) state.refrigerant = refrigerant
  },
  'stage-entered'(state, { stage }) {
    state.stage = stage
  },
  'cylinder-chosen'(state, { cylinderId, use, massMg }) {
    state.chosen = [...without(state, cylinderId, use), { cylinderId, use, massMg }]
  },
  'cylinder-released'(state, { cylinderId, use }) {
    state.chosen = without(state, cylinderId, use)
  },
  'run-started'(state, { runId, use, cylinderId, scale, mode, weightMg }, entry) {
    state.stage = use
    if (use === 'recover') delete state.recoveryEnded
    state.runs.push({
      runId,
      use,
      cylinderId,
      scale,
      mode,
      modes: [mode],
      startedAt: entry.at,
      hoseMg: 0,
      amountMg: 0,
      weighings: [{ entryId: entry.entryId, at: entry.at, weightMg, segment: 0 }],
    })
  },
  'weight-noted'(state, { runId, weightMg }, entry) {
    weigh(state, runId, weightMg, entry)
  },
  'scale-changed'(state, { runId, scale, mode, weightMg }, entry) {
    const run = runOf(state, runId)
    if (!run) return
    run.scale = scale
    run.mode = mode
    run.modes.push(mode)
    weigh(state, runId, weightMg, entry)
  },
  'run-ended'(state, { runId, weightMg, hoseMg }, entry) {
    const run = weigh(state, runId, weightMg, entry)
    if (!run) return
    run.endedAt = entry.at
    run.hoseMg = hoseMg
  },
  'recovery-ended'(state, { emptied }, entry) {
    state.recoveryEnded = { at: entry.at, emptied }
    state.recoveryEnds.push(state.recoveryEnded)
  },
  'gas-judged'(state, { cylinderId, condition }) {
    state.gas[cylinderId] = condition
  },
  'pressure-noted'(state, { point, pressurePa }, entry) {
    state.pressures[point] = { at: entry.at, value: pressurePa }
  },
  'temperature-noted'(state, { point, tempK }, entry) {
    state.temperatures[point] = { at: entry.at, value: tempK }
  },
  'vacuum-noted'(state, { pressurePa }, entry) {
    state.vacuum.push({ at: entry.at, value: pressurePa })
    state.holds.findLast((h) => h.endedAt === undefined)?.readings.push({ at: entry.at, pressurePa })
  },
  'hold-started'(state, { holdId, pressurePa }, entry) {
    state.stage = 'evacuate'
    state.vacuum.push({ at: entry.at, value: pressurePa })
    state.holds.push({ holdId, startedAt: entry.at, readings: [{ at: entry.at, pressurePa }] })
  },
  'hold-ended'(state, { holdId, pressurePa }, entry) {
    const hold = state.holds.find((h) => h.holdId === holdId)
    if (!hold) return flag(state, 'hold-without-start')
    hold.endedAt = entry.at
    hold.readings.push({ at: entry.at, pressurePa })
    state.vacuum.push({ at: entry.at, value: pressurePa })
  },
  'leak-checked'(state, { method, found, text }, entry) {
    state.leakChecks.push({ at: entry.at, method, found, text })
  },
  'oil-noted'(state, { direction, volumeMl }) {
    state.oil.noted = true
    state.oil[`${direction}Ml`] += volumeMl
  },
  'target-set'(state, { massMg, toleranceMg, basis }) {
    state.target = { massMg, toleranceMg, basis }
  },
  'step-done'(state, { step }) {
    if (!state.steps.includes(step)) state.steps.push(step)
  },
  note() {},
  'verdict-given'(state, { about, verdict }, entry) {
    state.verdicts.push({ entryId: entry.entryId, about, verdict })
  },
  'verdict-overruled'(state, { entryId, reason }) {
    const given = state.verdicts.find((v) => v.entryId === entryId)
    if (given) given.overruled = reason
  },
  correction(state, { entryId }) {
    const target = state.lines.find((line) => line.entry.entryId === entryId)
    if (!target || target.entry.kind === 'correction') flag(state, 'correction-without-entry')
  },
  'job-waiting'(state, { what }) {
    state.status = 'waiting'
    state.waitingFor = what
  },
  'job-resumed'(state) {
    state.status = 'open'
    state.waitingFor = ''
  },
  'job-closed'(state, _body, entry) {
    state.status = 'closed'
    state.stage = 'close'
    state.closedAt = entry.at
    state.waitingFor = ''
  },
  'job-cancelled'(state, _body, entry) {
    state.status = 'cancelled'
    state.closedAt = entry.at
    state.waitingFor = ''
  },
  'job-reopened'(state) {
    state.status = 'open'
    delete state.closedAt
  },
}

function weigh(state: JobState, runId: string, weightMg: number, entry: Entry): Run | undefined {
  const run = runOf(state, runId)
  if (!run) return undefined
  if (run.endedAt !== undefined) flag(state, 'weight-after-end')
  run.weighings.push({ entryId: entry.entryId, at: entry.at, weightMg, segment: run.modes.length - 1 })
  return run
}

function runOf(state: JobState, runId: string): Run | undefined {
  const run = state.runs.find((r) => r.runId === runId)
  if (!run) flag(state, 'weight-without-start')
  return run
}

/** First to last reading of each scale; between two scales nothing is lost, since the cylinder stays as it is. */
function amountOf(run: Run): number {
  const firsts: number[] = []
  const lasts: number[] = []
  for (const { segment, weightMg } of run.weighings) {
    firsts[segment] ??= weightMg
    lasts[segment] = weightMg
  }
  return run.modes.reduce((sum, mode, segment) => {
    const first = firsts[segment]!
    const last = lasts[segment]!
    if (run.use === 'recover') return sum + last - first
    // A zeroed scale goes below zero while charging; some write the minus, some do not.
    return sum + (mode === 'net' ? Math.abs(last) - Math.abs(first) : first - last)
  }, 0)
}

function total(runs: Run[], use: Run['use']): number {
  return runs.reduce((sum, run) => (run.use === use ? sum + run.amountMg - run.hoseMg : sum), 0)
}

function without(state: JobState, cylinderId: string, use: Run['use']) {
  return state.chosen.filter((c) => c.cylinderId !== cylinderId || c.use !== use)
}

function flag(state: JobState, code: string) {
  if (!state.flags.includes(code)) state.flags.push(code)
}
