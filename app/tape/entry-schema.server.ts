import Joi from 'joi'
import { CHANNELS } from '#core/samples'
import { type Entry, type EntryBodies, type EntryKind, KINDS, type Made, upcast, versionOf } from '#core/tape'
import { against } from './chapters/against.server'
import { charge } from './chapters/charge.server'
import { evacuation } from './chapters/evacuation.server'
import { job } from './chapters/job.server'
import { kit } from './chapters/kit.server'
import { leakTest } from './chapters/leak-test.server'
import { oil } from './chapters/oil.server'
import { id, type Schemas, words } from './chapters/parts.server'
import { programme } from './chapters/programme.server'
import { readings } from './chapters/readings.server'
import { recovery } from './chapters/recovery.server'
import { repair } from './chapters/repair.server'
import { retrofit } from './chapters/retrofit.server'
import { transfer } from './chapters/transfer.server'
import { verdicts } from './chapters/verdicts.server'
import { watches } from './chapters/watches.server'

/** What each kind may say, in today's version: older bodies are brought there first. */
const BODIES: Schemas<EntryBodies> = {
  ...job,
  ...programme,
  ...transfer,
  ...recovery,
  ...repair,
  ...retrofit,
  ...leakTest,
  ...evacuation,
  ...oil,
  ...charge,
  ...readings,
  ...watches,
  ...kit,
  ...verdicts,
  ...against,
}

const SCHEMAS = Object.fromEntries(
  Object.entries(BODIES).map(([kind, map]) => [kind, Joi.object(map as Joi.SchemaMap)]),
) as Record<EntryKind, Joi.ObjectSchema>

/** A clock may be wrong by years; what lies beyond these is no time at all. */
const time = Joi.number()
  .integer()
  .min(0)
  .max(Date.UTC(2200, 0, 1))
  .required()

const made = Joi.object<Made>({
  life: Joi.string().max(60).required(),
  ms: Joi.number().min(0).max(1e12).required(),
  heardMs: Joi.number().min(-1e13).max(1e13),
})

const envelope = Joi.object({
  entryId: id,
  kind: Joi.string()
    .valid(...Object.keys(BODIES))
    .required(),
  version: Joi.number().integer().min(1).max(1000).required(),
  at: time,
  backdated: Joi.boolean(),
  sample: Joi.object({
    deviceId: id,
    channel: Joi.string()
      .valid(...CHANNELS)
      .required(),
    seq: Joi.number().integer().min(0).max(Number.MAX_SAFE_INTEGER).required(),
  }),
  made,
  deviceId: words(80).required(),
  deviceSeq: Joi.number()
    .integer()
    .min(0)
    .max(2 ** 31 - 1)
    .required(),
  body: Joi.object().required(),
})

const batch = Joi.object<{
  userId: string
  entries: unknown[]
  sentAt: number
  made?: Made
  unheard: string[]
}>({
  userId: id,
  entries: Joi.array().min(1).max(500).required(),
  sentAt: time,
  made,
  unheard: Joi.array().items(Joi.string().max(100)).max(500).default([]),
}).required()

export interface ReadBatch {
  /** Who wrote them. */
  userId: string
  entries: Entry[]
  sentAt: number
  /** The same moment by what nobody can set; devices of before do not say. */
  made?: Made | undefined
  /** Ids of entries that were made when no answer came: whatever they decided, it has happened. */
  unheard: string[]
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
  const { userId, sentAt, unheard } = value
  return { userId, entries, sentAt, made: value.made, unheard, malformed }
}

/** Whether it is an entry that this Keg knows. */
export const isEntry = (sent: unknown): boolean => readEntry(sent) !== undefined

function readEntry(sent: unknown): Entry | undefined {
  if (!canBeKept(sent)) return undefined
  const { value, error } = envelope.validate(sent, { stripUnknown: true, convert: false })
  if (error) return undefined
  const entry = value as Entry
  if (!bodyFits(entry.kind, entry.version, entry.body)) return undefined
  if (entry.kind === 'correction' && !correctionFits(entry.body)) return undefined
  return entry
}

/** Whether a body, brought to today's version, is one of its kind. What an older version could not say is kept as it is. */
function bodyFits(kind: EntryKind, version: number, body: object): boolean {
  if (version > versionOf(kind)) return false
  const today = upcast(kind, version, body as Entry['body'])
  return !SCHEMAS[kind].validate(today, { convert: false }).error
}

function correctionFits({ kind, body, version = 1 }: EntryBodies['correction']): boolean {
  if (kind === 'correction' || !Object.hasOwn(KINDS, kind)) return false
  return body === null || bodyFits(kind, version, body)
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
