import Joi from 'joi'
import { REFRIGERANTS } from '#core/refrigerants'
import { ENTRY_VERSION, type Entry, type EntryBodies, type EntryKind, STAGES } from '#core/tape'
import { ID } from '~/form/ids.server'
import { QUANTITY_WORDS, VERDICT_REASONS, VERDICT_WORDS } from '~/wording/en'

/** As every device of ours writes them: another spelling of the same id would be another id. */
const anId = Joi.string().pattern(ID)
const id = anId.required()
const massMg = Joi.number().integer().min(-1e12).max(1e12)
const pressurePa = Joi.number().min(0).max(2e7)
const words = (most: number) => Joi.string().allow('').max(most)
const oneOf = (...values: string[]) => Joi.string().valid(...values)
const use = oneOf('recover', 'charge').required()
const mode = oneOf('gross', 'net').required()
const condition = oneOf('clean', 'used', 'doubtful', 'mixed').required()

const quantities = Joi.array()
  .max(20)
  .items(
    Joi.object({
      name: oneOf(...Object.keys(QUANTITY_WORDS)).required(),
      value: Joi.number().required(),
      unit: oneOf('kg', 'Pa', 'K', 's', 'mL', 'share', 'count').required(),
      sigma: Joi.number().min(0),
    }),
  )

/** To the bottom: whoever reads it later relies on every part of it. */
const verdict = Joi.object({
  outcome: oneOf('good', 'caution', 'bad', 'open').required(),
  code: oneOf(...Object.keys(VERDICT_WORDS)).required(),
  reasons: Joi.array()
    .max(20)
    .items(Joi.object({ code: oneOf(...Object.keys(VERDICT_REASONS)).required(), numbers: quantities }))
    .required(),
  numbers: quantities.required(),
  source: words(400).required(),
  caution: words(60),
})

/** What each kind may say. The version of an entry picks its schema; there is one version so far. */
const BODIES: Record<EntryKind, Joi.SchemaMap> = {
  'job-described': {
    title: words(200),
    systemId: anId.allow(null),
    refrigerant: oneOf(...REFRIGERANTS).allow(null),
  },
  'stage-entered': { stage: oneOf(...STAGES).required() },
  'cylinder-chosen': { cylinderId: id, use, massMg: massMg.min(0).allow(null).required() },
  'cylinder-released': { cylinderId: id, use },
  'run-started': {
    runId: id,
    use,
    cylinderId: id,
    scale: words(80).required(),
    mode,
    weightMg: massMg.required(),
  },
  'weight-noted': { runId: id, weightMg: massMg.required() },
  'scale-changed': { runId: id, scale: words(80).required(), mode, weightMg: massMg.required() },
  'run-ended': { runId: id, weightMg: massMg.required(), hoseMg: massMg.min(0).required() },
  'recovery-ended': { emptied: Joi.boolean().required() },
  'gas-judged': { cylinderId: id, condition },
  'pressure-noted': { point: oneOf('low', 'high', 'cylinder').required(), pressurePa: pressurePa.required() },
  'temperature-noted': {
    point: oneOf('suction', 'liquid', 'ambient', 'cylinder', 'vent').required(),
    tempK: Joi.number().min(170).max(580).required(),
  },
  'vacuum-noted': { pressurePa: pressurePa.required() },
  'hold-started': { holdId: id, pressurePa: pressurePa.required() },
  'hold-ended': { holdId: id, pressurePa: pressurePa.required() },
  'leak-checked': {
    method: oneOf('nitrogen', 'detector', 'bubbles', 'dye', 'vacuum').required(),
    found: Joi.boolean().required(),
    text: words(1000).required(),
  },
  'oil-noted': {
    direction: oneOf('out', 'parts', 'in').required(),
    volumeMl: Joi.number().min(0).max(1e5).required(),
    text: words(200).required(),
  },
  'target-set': {
    massMg: massMg.min(1).required(),
    toleranceMg: massMg.min(0).required(),
    basis: oneOf('recovered', 'expected', 'typed').required(),
  },
  'step-done': { step: words(60).required() },
  note: { text: Joi.string().trim().min(1).max(4000).required() },
  'verdict-given': {
    about: oneOf('recovery', 'hold', 'charge', 'readings').required(),
    verdict: verdict.required(),
    engine: Joi.number().integer().required(),
    tables: Joi.number().integer().required(),
  },
  'verdict-overruled': { entryId: id, reason: words(1000).required() },
  correction: {
    entryId: id,
    // Which of them is looked up once they are all there.
    kind: Joi.string().max(60).required(),
    body: Joi.object().allow(null).required(),
    reason: words(1000).required(),
  },
  'job-waiting': { what: words(200).required() },
  'job-resumed': {},
  'job-closed': {},
  'job-cancelled': { reason: words(1000).required() },
  'job-reopened': { reason: words(1000).required() },
}

const SCHEMAS = Object.fromEntries(
  Object.entries(BODIES).map(([kind, map]) => [kind, Joi.object(map)]),
) as Record<EntryKind, Joi.ObjectSchema>

/** A clock may be wrong by years; what lies beyond these is no time at all. */
const time = Joi.number()
  .integer()
  .min(0)
  .max(Date.UTC(2200, 0, 1))
  .required()

const envelope = Joi.object({
  entryId: id,
  kind: oneOf(...Object.keys(BODIES)).required(),
  version: Joi.number().integer().min(1).max(ENTRY_VERSION).required(),
  at: time,
  deviceId: words(80).required(),
  deviceSeq: Joi.number()
    .integer()
    .min(0)
    .max(2 ** 31 - 1)
    .required(),
  body: Joi.object().required(),
})

const batch = Joi.object<{ userId: string; entries: unknown[]; sentAt: number }>({
  userId: id,
  entries: Joi.array().min(1).max(500).required(),
  sentAt: time,
}).required()

export interface ReadBatch {
  /** Who wrote them. */
  userId: string
  entries: Entry[]
  sentAt: number
  /** Ids of entries that are malformed: given back, so that they do not block the others. */
  malformed: string[]
}

/** Reads what a device sent. @returns undefined when it is no batch at all */
export function readBatch(sent: unknown): ReadBatch | undefined {
  const { value, error } = batch.validate(sent)
  if (error) return undefined
  const entries: Entry[] = []
  const malformed: string[] = []
  for (const each of value.entries) {
    const entry = readEntry(each)
    if (entry) entries.push(entry)
    else malformed.push(idIn(each))
  }
  return { userId: value.userId, entries, sentAt: value.sentAt, malformed }
}

function readEntry(sent: unknown): Entry | undefined {
  if (!canBeKept(sent)) return undefined
  const { value, error } = envelope.validate(sent, { stripUnknown: true, convert: false })
  if (error) return undefined
  const entry = value as Entry
  const body = SCHEMAS[entry.kind].validate(entry.body, { convert: false })
  if (body.error) return undefined
  if (entry.kind === 'correction' && !correctionFits(entry.body)) return undefined
  return entry
}

function correctionFits({ kind, body }: EntryBodies['correction']): boolean {
  if (kind === 'correction' || !Object.hasOwn(SCHEMAS, kind)) return false
  return body === null || !SCHEMAS[kind].validate(body, { convert: false }).error
}

/** What a malformed entry calls itself, as far as it can be said back. */
function idIn(sent: unknown): string {
  const id: unknown = typeof sent === 'object' && sent !== null && 'entryId' in sent ? sent.entryId : ''
  return typeof id === 'string' ? id.slice(0, 100).toWellFormed() : ''
}

const DEEPEST = 12

/** Text that a database can keep, nothing deeper than any entry is, and no name that means something else. */
function canBeKept(value: unknown, depth = 0): boolean {
  if (typeof value === 'string') return value.isWellFormed() && !value.includes('\0')
  if (typeof value !== 'object' || value === null) return true
  if (depth === DEEPEST) return false
  return Object.entries(value).every(
    ([key, each]) => key !== '__proto__' && canBeKept(key) && canBeKept(each, depth + 1),
  )
}
