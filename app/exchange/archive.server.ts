import Joi from 'joi'
import { KINDS_OF_KIT } from '#core/kit'
import { REFRIGERANTS } from '#core/refrigerants'
import {
  ARCHIVE_PARTS,
  type ArchivedPerson,
  type ArchivedShop,
  archiveHead,
  archiveRows,
  type ShopTx,
} from '#db'
import { ID } from '~/base/form/id'
import { kitFacts } from '~/kit/schema'
import { isEntry } from '~/tape/entry-schema.server'

/** Rises when the shape of the archive changes: older ones are read for ever. */
export const ARCHIVE_VERSION = 1
const FORMAT = 'keg-archive'

/** The whole shop as one JSON document; `docs/archive.md` says what is in it. */
export async function writeArchive(tx: ShopTx, at: Date): Promise<Buffer[]> {
  const { shop, people } = await archiveHead(tx)
  const chunks: Buffer[] = []
  const write = (text: string) => chunks.push(Buffer.from(text))
  write(
    `{"format":"${FORMAT}","version":${ARCHIVE_VERSION},"writtenAt":"${at.toISOString()}",\n"shop":${JSON.stringify(shop)},\n"people":${JSON.stringify(people)}`,
  )
  let now: string | undefined
  for await (const { part, rows } of archiveRows(tx)) {
    if (part !== now) write(`${now === undefined ? '' : ']'},\n"${part}":[\n${rows.join(',\n')}`)
    else write(`,\n${rows.join(',\n')}`)
    now = part
  }
  write(now === undefined ? '}\n' : ']}\n')
  return chunks
}

export interface ReadArchive {
  shop: ArchivedShop
  people: ArchivedPerson[]
  parts: Record<string, object[]>
}

const id = Joi.string().pattern(ID).required()
const gas = Joi.string()
  .valid(...REFRIGERANTS)
  .allow(null)
const rows = (schema: Joi.SchemaMap) => Joi.array().items(Joi.object(schema).unknown()).default([])

const schema = Joi.object({
  format: Joi.string().valid(FORMAT).required(),
  version: Joi.number().valid(ARCHIVE_VERSION).required(),
  writtenAt: Joi.string().isoDate().required(),
  shop: Joi.object({
    name: Joi.string().max(200).required(),
    heading: Joi.string().allow('').max(500).required(),
    time_zone: Joi.string()
      .valid(...Intl.supportedValuesOf('timeZone'), 'UTC')
      .required(),
    fill_margin_pct: Joi.number().integer().min(0).max(30).required(),
    // Archives of earlier versions say nothing of it.
    sample_days: Joi.number().integer().min(1).max(3650).default(30),
    next_job_number: Joi.number().integer().min(1).max(1e9).required(),
  }).required(),
  people: Joi.array()
    .items(
      Joi.object({
        user_id: id,
        sign_in: Joi.string().max(200).required(),
        role: Joi.string().valid('manager', 'technician', 'trainee').required(),
        display_name: Joi.string().max(200).required(),
        created_at: Joi.string().isoDate().required(),
      }),
    )
    .required(),
  ...Object.fromEntries(ARCHIVE_PARTS.map(({ name }) => [name, rows({})])),
  cylinders: rows({ cylinder_id: id, refrigerant: gas, ratio_gas: gas }),
  systems: rows({
    system_id: id,
    refrigerant: gas,
    lines: Joi.array()
      .max(100)
      .items(
        Joi.object({
          kind: Joi.string().valid('liquid', 'suction').required(),
          od: Joi.string().max(20).required(),
          lengthM: Joi.number().required(),
          coveredM: Joi.number().required(),
          guessed: Joi.boolean().required(),
        }).unknown(),
      )
      .required(),
    accessories: Joi.array()
      .max(100)
      .items(
        Joi.object({
          name: Joi.string().allow('').max(120).required(),
          massMg: Joi.number().required(),
        }).unknown(),
      )
      .required(),
  }),
  kit: rows({
    kit_id: id,
    kind: Joi.string()
      .valid(...Object.keys(KINDS_OF_KIT))
      .required(),
    facts: kitFacts.required(),
  }),
  acts: rows({
    act_id: id,
    what: Joi.string()
      .valid('struck', ...new Set(Object.values(KINDS_OF_KIT).flatMap((kind) => kind.acts)))
      .required(),
    body: Joi.object().required(),
  }),
  movements: rows({ refrigerant: gas }),
})

/** More than the largest file can have that says anything. */
const MOST_ROWS = 600_000
const lengthOf = (part: unknown) => (Array.isArray(part) ? [part.length] : [])

/** Reads an archive. @returns a sentence where it is none that this Keg can read */
export function readArchive(text: string): ReadArchive | { wrong: string } {
  let sent: unknown
  try {
    sent = JSON.parse(text)
  } catch {
    return { wrong: 'That is no archive of Keg: it cannot be read as JSON. Was it cut off on its way?' }
  }
  const rows = typeof sent === 'object' && sent !== null ? Object.values(sent).flatMap(lengthOf) : []
  if (rows.reduce((sum, each) => sum + each, 0) > MOST_ROWS)
    return { wrong: `That is no archive of Keg: it has more than ${MOST_ROWS} rows.` }
  const version = typeof sent === 'object' && sent !== null && 'version' in sent ? sent.version : undefined
  if (typeof version === 'number' && version > ARCHIVE_VERSION)
    return { wrong: 'That archive was written by a newer Keg: bring this one up to date first.' }
  const { value, error } = schema.validate(sent, { convert: false, stripUnknown: { objects: true } })
  if (error) return { wrong: `That archive does not fit: ${error.details[0]!.message}.` }
  const {
    shop,
    people,
    format: _f,
    version: _v,
    writtenAt: _w,
    ...parts
  } = value as ReadArchive & Record<string, object[]>
  const wrongEntry = (parts.entries as Record<string, unknown>[]).findIndex((row) => !isEntry(entryIn(row)))
  if (wrongEntry !== -1)
    return { wrong: `That archive does not fit: row ${wrongEntry + 1} of entries is none that Keg knows.` }
  return { shop, people, parts: parts as unknown as Record<string, object[]> }
}

const entryIn = (row: Record<string, unknown>) => ({
  entryId: row.entry_id,
  kind: row.kind,
  version: row.version,
  at: typeof row.at === 'string' ? Date.parse(row.at) : row.at,
  deviceId: row.device_id,
  deviceSeq: row.device_seq,
  body: row.body,
})
