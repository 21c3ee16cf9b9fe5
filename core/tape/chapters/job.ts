import { type Chapter, wordsOnly } from '../envelope/chapter'
import { type Stage, stepDone } from '../envelope/state'

export type JobStatus = 'open' | 'waiting' | 'closed' | 'cancelled'

export interface JobBodies {
  'job-described': { title?: string; systemId?: string | null; refrigerant?: string | null }
  /** The charge on the plate, read in this job; `text` as printed. */
  'plate-noted': { massMg: number; text: string }
  'stage-entered': { stage: Stage }
  'step-done': { step: string }
  /** Left out on purpose: what can hurt somebody, or spoil a cylinder, is said with its reason. */
  'step-skipped': { step: string; reason: string }
  note: { text: string }
  /** Drawn on screen: each stroke as x, y, x, y in thousandths of the field's width. */
  'customer-signed': { name: string; strokes: number[][] }
  'job-waiting': { what: string }
  'job-resumed': Record<string, never>
  /** @param reason why it was closed with points open */
  'job-closed': { reason?: string }
  'job-cancelled': { reason: string }
  'job-reopened': { reason: string }
}

export interface JobSlice {
  status: JobStatus
  stage: Stage
  title: string
  systemId: string | null
  refrigerant: string | null
  /** Read in this job; null: not. */
  plate: { massMg: number; text: string } | null
  openedAt: number
  lastAt: number
  closedAt?: number
  /** Steps ticked off, each with the last time it was. */
  steps: { step: string; at: number; order: number }[]
  skipped: { step: string; reason: string; at: number }[]
  waitingFor: string
  /** The customer's, drawn on screen. */
  signature?: { name: string; strokes: number[][]; at: number }
}

export const job: Chapter<JobBodies, JobSlice> = {
  blank: () => ({
    status: 'open',
    stage: 'prepare',
    title: '',
    systemId: null,
    refrigerant: null,
    plate: null,
    openedAt: 0,
    lastAt: 0,
    steps: [],
    skipped: [],
    waitingFor: '',
  }),
  kinds: {
    'job-described': {
      version: 1,
      upcast: [],
      refs: ({ systemId }) => (systemId ? { systems: [systemId] } : {}),
      ownId: null,
      figure: null,
      correctable: false,
      afterClose: false,
      decides: null,
      fold(state, { title, systemId, refrigerant }) {
        if (title !== undefined) state.title = title
        if (systemId !== undefined) state.systemId = systemId
        if (refrigerant !== undefined) state.refrigerant = refrigerant
      },
    },
    'plate-noted': {
      version: 1,
      upcast: [],
      refs: () => ({}),
      ownId: null,
      figure: { quantity: 'weight', key: 'massMg' },
      correctable: true,
      afterClose: true,
      decides: null,
      fold(state, { massMg, text }) {
        state.plate = { massMg, text }
      },
    },
    'stage-entered': wordsOnly<JobBodies['stage-entered']>((state, { stage }) => {
      state.stage = stage
    }),
    'step-done': wordsOnly<JobBodies['step-done']>(
      (state, { step }, { time, order }) => {
        state.steps = [...state.steps.filter((each) => each.step !== step), { step, at: time, order }]
      },
      { correctable: true },
    ),
    'step-skipped': wordsOnly<JobBodies['step-skipped']>(
      (state, { step, reason }, { time }) => {
        state.skipped = [...state.skipped.filter((each) => each.step !== step), { step, reason, at: time }]
      },
      { correctable: true },
    ),
    note: wordsOnly<JobBodies['note']>(() => {}, { correctable: true, afterClose: true }),
    'customer-signed': wordsOnly<JobBodies['customer-signed']>(
      (state, { name, strokes }, { time }) => {
        state.signature = { name, strokes, at: time }
      },
      { correctable: true, afterClose: true },
    ),
    'job-waiting': wordsOnly<JobBodies['job-waiting']>((state, { what }) => {
      state.status = 'waiting'
      state.waitingFor = what
    }),
    'job-resumed': wordsOnly<JobBodies['job-resumed']>((state) => {
      state.status = 'open'
      state.waitingFor = ''
    }),
    'job-closed': wordsOnly<JobBodies['job-closed']>((state, _body, { time }) => {
      state.status = 'closed'
      state.stage = 'close'
      state.closedAt = time
      state.waitingFor = ''
    }),
    'job-cancelled': wordsOnly<JobBodies['job-cancelled']>((state, _body, { time }) => {
      state.status = 'cancelled'
      state.closedAt = time
      state.waitingFor = ''
    }),
    'job-reopened': wordsOnly<JobBodies['job-reopened']>(
      (state) => {
        state.status = 'open'
        delete state.closedAt
      },
      { afterClose: true },
    ),
  },
  underWay(state) {
    if (state.status === 'closed' || state.status === 'cancelled') return 'nothing'
    if (state.status === 'waiting') return 'wait'
    return undefined
  },
  progress: {
    prepare: ({ refrigerant, chosen, transfers }) =>
      refrigerant === null ? 'untouched' : chosen.length + transfers.length > 0 ? 'done' : 'begun',
    repair: (state) =>
      stepDone(state, 'repair-done')
        ? 'done'
        : state.steps.some(({ step }) => step.startsWith('repair-'))
          ? 'begun'
          : 'untouched',
    close: ({ status }) => (status === 'closed' ? 'done' : 'untouched'),
  },
}
