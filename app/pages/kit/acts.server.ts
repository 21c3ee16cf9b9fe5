import { TZDate } from '@date-fns/tz'
import Joi from 'joi'
import { type ActCode, isComparison, judgeCheck, KINDS_OF_KIT, type KitKind, READS } from '#core/kit'
import { STANDARD_ATMOSPHERE_PA } from '#core/units'
import { type ActBody, bookPurge, type KitRow, type ShopTx, strikeAct, writeAct } from '#db'
import {
  checkForm,
  dateField,
  id,
  measured,
  optionalId,
  type Refused,
  refuse,
  text,
  type Typed,
} from '~/base/form/read.server'
import type { ReadersUnits } from '~/base/ui/measure'

interface ActForm {
  what: ActCode
  actId: string
  known?: number
  read?: number
  passed?: 'yes' | 'no'
  hours?: number
  ml?: number
  mass?: number
  cylinderId?: string
  transferId?: string
  jobId?: string
  how?: 'reweighed' | 'accepted'
  on?: string
  text?: string
}

/** Decided on all that is in doubt. */
const ALL = 'all'

/** Acts in which somebody says whether it was good. */
export const SAID: readonly ActCode[] = ['calibrated', 'seals-looked']

const schemaOf = (what: ActCode, reading: ReadersUnits) =>
  Joi.object<ActForm>({
    what: Joi.string().required(),
    actId: id,
    on: dateField,
    text: what === 'decided' ? text('why', 500).required() : text('a remark', 500),
    ...(isComparison(what)
      ? {
          read: measured(READS[what], 'what it reads', reading).required(),
          ...(what === 'zero-check'
            ? {}
            : { known: measured(READS[what], 'what it should be', reading).required() }),
        }
      : {}),
    ...(SAID.includes(what)
      ? {
          passed: Joi.string().valid('yes', 'no').required().messages({ '*': 'Say whether it was good.' }),
        }
      : {}),
    ...(what === 'hours-run'
      ? {
          hours: Joi.number()
            .greater(0)
            .max(10_000)
            .empty('')
            .required()
            .messages({ '*': 'Enter how many hours it ran, such as 6.' }),
        }
      : {}),
    ...(what === 'bottle-level' ? { ml: measured('volume', 'what is left', reading).required() } : {}),
    ...(what === 'purged'
      ? { mass: measured('weight', 'what came out', reading), cylinderId: optionalId }
      : {}),
    ...(what === 'decided'
      ? {
          transferId: Joi.alternatives(id, Joi.string().valid(ALL)),
          jobId: optionalId,
          how: Joi.string()
            .valid('reweighed', 'accepted')
            .required()
            .messages({ '*': 'Choose what was decided.' }),
        }
      : {}),
  })

export interface ReadAct {
  what: ActCode
  actId: string
  at: Date
  body: ActBody
  passed: boolean | null
}

/** Reads one of the short forms of a piece of kit. Errors stand under the name of what is done. */
export function readAct(
  typed: Typed,
  piece: Pick<KitRow, 'kind' | 'facts'>,
  { reading, timeZone, now, today }: { reading: ReadersUnits; timeZone: string; now: Date; today: string },
): { value: ReadAct; refused?: undefined } | { value?: undefined; refused: Refused } {
  const what = actOf(piece.kind, typed.what)
  if (!what) throw new Response('This page is out of date: reload it.', { status: 400 })
  const form = checkForm(typed, schemaOf(what, reading))
  const under = (message: string) => ({ refused: refuse(typed, { [underName(what, typed)]: message }) })
  if (form.refused) return under(Object.values(form.refused.errors).join(' '))
  const f = form.value
  if (f.on && f.on > today) return under('That day has not been yet.')
  const at = f.on && f.on !== today ? noonOf(f.on, timeZone) : now
  const body: ActBody = {
    ...(f.text ? { text: f.text } : {}),
    ...(f.hours ? { hours: f.hours } : {}),
    ...(f.cylinderId ? { cylinderId: f.cylinderId } : {}),
    ...(f.transferId
      ? { transferId: f.transferId, ...(f.jobId ? { jobId: f.jobId } : {}), how: f.how! }
      : {}),
  }
  if (f.ml !== undefined) {
    if (f.ml < 0) return under('What is left cannot be less than nothing.')
    body.ml = f.ml
  }
  if (what === 'purged' && f.mass !== undefined) {
    if (f.mass < 0 || f.mass > 5e6) return under('Enter what the scale gained: some grams to a few hundred.')
    body.massMg = f.mass
  }
  if (what === 'purged' && f.cylinderId && f.mass === undefined)
    return under('Enter what the scale under the cylinder gained, 0 g where it was nothing.')
  if (!isComparison(what))
    return {
      value: { what, actId: f.actId, at, body, passed: SAID.includes(what) ? f.passed === 'yes' : null },
    }
  const known = what === 'zero-check' ? (reading.atmospherePa ?? STANDARD_ATMOSPHERE_PA) : f.known!
  if (what === 'scale-check' && known <= 0)
    return under('A scale is checked with a weight that is more than nothing.')
  if (what === 'vacuum-check' && known <= 0)
    return under('Enter what the proved gauge reads, more than nothing.')
  const { passed } = judgeCheck(what, piece.facts, { known, read: f.read! })
  return { value: { what, actId: f.actId, at, body: { ...body, known, read: f.read! }, passed } }
}

/** Several forms of deciding stand on one page: each has its own place for what is wrong. */
const underName = (what: ActCode, typed: Typed) => (what === 'decided' ? `decided ${typed.transferId}` : what)

function actOf(kind: KitKind, what: string | undefined): ActCode | undefined {
  return KINDS_OF_KIT[kind].acts.find((each) => each === what)
}

function noonOf(day: string, timeZone: string): Date {
  const [year, month, date] = day.split('-').map(Number)
  return new Date(new TZDate(year!, month! - 1, date!, 12, 0, 0, timeZone).getTime())
}

/** Writes it, with what it moves. The caller holds its lock. @throws VoucherError */
export async function writeItsAct(
  tx: ShopTx,
  kitId: string,
  { what, ...act }: ReadAct,
  { now, userId }: { now: Date; userId: string },
): Promise<void> {
  if (what === 'purged') await bookPurge(tx, { ...act, what, kitId, now, userId })
  else await writeAct(tx, { ...act, what, kitId, now, userId })
}

/** Strikes an act with its reason. @returns what is wrong with it */
export async function strikeIt(
  tx: ShopTx,
  kitId: string,
  typed: Typed,
  { now, userId }: { now: Date; userId: string },
): Promise<Refused | undefined> {
  const form = checkForm(
    typed,
    Joi.object<{ actId: string; strikeId: string; text: string }>({
      actId: id,
      strikeId: id,
      text: text('why it is struck', 500).required(),
    }),
  )
  const under = (sentence: string) => refuse(typed, { [`strike ${typed.actId}`]: sentence })
  if (form.refused) return under(Object.values(form.refused.errors).join(' '))
  const there = await strikeAct(tx, { ...form.value, kitId, now, userId })
  return there ? undefined : under('That cannot be struck: reload the page.')
}
