import { weighs } from '#core/kit'
import Joi from 'joi'
import { grossLimitMg, stampDate } from '#core/cylinders'
import { askAboutStart, type WeighMode } from '#core/tape'
import {
  addCylinder,
  append,
  type CylinderRow,
  cylinderOf,
  findCylinders,
  inShop,
  LabelTakenError,
  openJob,
  type ShopTx,
  systemOf,
  kitOf,
} from '#db'
import {
  type Typed,
  id,
  measured,
  optionalId,
  readForm,
  type Refused,
  refrigerantField,
  refuse,
  text,
} from '~/base/form/read.server'
import { now, todayIn } from '~/base/session/clock.server'
import { preferencesOf } from '~/base/session/preferences'
import type { SignedIn } from '#db'
import type { ReadersUnits } from '~/base/ui/measure'
import { QUESTION_WORDS, REASON_WORDS } from '~/words/en'
import { namedScale } from '~/kit/job-kit'
import { sampleNamed } from '~/samples/sample-field'
import { beginning } from './entries'

export interface NewJob {
  way: 'quick' | 'system'
  jobId: string
  runId: string
  systemId?: string
  title?: string
  /** What it is for. */
  purpose?: 'service' | 'retrofit'
  refrigerant?: string
  /** Tapped on a tile. */
  cylinderId?: string
  /** Typed, or written on one that is not there yet. */
  cylinder?: string
  startWeight?: number
  mode?: WeighMode
  /** The shop's scale that it stands on. */
  scaleId?: string
  /** Taken from the live scale: the sample that counts. */
  sample?: string
  /** The start weight that was asked about, and said to be right. */
  sure?: string
  newId?: string
  tare?: number
  waterCapacity?: number
  servicePressure?: number
  testedOn?: string
  at?: number
  deviceId?: string
  deviceSeq?: number
}

const schema = (reading: ReadersUnits) =>
  Joi.object<NewJob>({
    way: Joi.string().valid('quick', 'system').default('system'),
    jobId: id,
    runId: id,
    systemId: optionalId,
    title: text('what the job is', 200),
    purpose: Joi.string().valid('service', 'retrofit').empty(''),
    refrigerant: refrigerantField,
    cylinderId: optionalId,
    cylinder: text('the label of the cylinder', 80),
    startWeight: measured('weight', 'the start weight', reading),
    scaleId: optionalId,
    sample: Joi.string().max(80).empty(''),
    mode: Joi.string().valid('gross', 'net'),
    sure: Joi.string().max(40).empty(''),
    newId: optionalId,
    tare: measured('weight', 'the stamped tare weight (TW)', reading),
    waterCapacity: measured('weight', 'the stamped water capacity (WC)', reading),
    servicePressure: measured('pressure', 'the stamped service pressure', reading),
    testedOn: Joi.string()
      .max(20)
      .empty('')
      .custom((typed: string, helpers) => stampDate(typed) ?? helpers.error('any.invalid'))
      .messages({ '*': 'Enter the test date by month and year, as it is stamped: 03/25.' }),
    at: Joi.number()
      .integer()
      .min(0)
      .max(Date.UTC(2200, 0, 1))
      .empty(''),
    deviceId: Joi.string().max(80).empty(''),
    deviceSeq: Joi.number()
      .integer()
      .min(0)
      .max(2 ** 31 - 10)
      .empty(''),
  })

/** The transaction is given up: nothing of a job that cannot begin like this. */
class NotLikeThis extends Error {
  constructor(readonly errors: Record<string, string>) {
    super('The job cannot begin like this.')
  }
}

/** Opens a job with all that the form says, or says why not. */
export async function begin(
  request: Request,
  { shop, person }: SignedIn,
): Promise<{ jobId: string; refused?: undefined } | { jobId?: undefined; refused: Refused }> {
  const reading = { units: preferencesOf(person.preferences).units }
  const form = await readForm(request, schema(reading))
  if (form.refused) return { refused: form.refused }
  const job = form.value
  const again = (errors: Record<string, string>) => ({ refused: refuse(form.typed, errors) })
  if (job.way === 'quick' && !job.cylinderId && !job.cylinder)
    return again({ cylinder: 'Tap the cylinder that stands on the scale, or type its label.' })
  if (job.startWeight !== undefined && !job.cylinder && !job.cylinderId)
    return again({ cylinder: 'Enter which cylinder is on the scale.' })
  if (job.cylinder && !job.cylinderId && !job.refrigerant && !job.systemId)
    return again({
      refrigerant: 'Choose the refrigerant: without it nobody can say whether this cylinder may take it.',
    })
  const at = now()
  const deviceAt = job.at ?? at.getTime()
  try {
    await inShop(shop.shopId, async (tx) => {
      const system = job.systemId ? await systemOf(tx, job.systemId) : undefined
      if (job.systemId && !system)
        throw new NotLikeThis({ systemId: 'Choose the system from the list again.' })
      const cylinder = await cylinderFor(tx, job, form.typed, at)
      const refrigerant = job.refrigerant ?? cylinder?.refrigerant ?? system?.refrigerant ?? null
      if (cylinder && refrigerant === null)
        throw new NotLikeThis({
          refrigerant: 'Choose the refrigerant: without it nobody can say whether this cylinder may take it.',
        })
      await openJob(tx, job.jobId, person.userId, at)
      const { refused } = await append(tx, {
        jobId: job.jobId,
        userId: person.userId,
        entries: beginning({
          jobId: job.jobId,
          runId: job.runId,
          at: deviceAt,
          deviceId: job.deviceId ?? 'new-job',
          deviceSeq: job.deviceSeq ?? 0,
          title: job.title ?? '',
          systemId: system?.systemId ?? null,
          refrigerant,
          retrofit: job.purpose === 'retrofit',
          ...(cylinder && {
            cylinder: {
              cylinderId: cylinder.cylinderId,
              bookedMg: cylinder.tareMg + cylinder.balanceMg,
              startMg: job.startWeight,
              sample: sampleNamed(job.sample, 'weight'),
              mode: job.mode ?? 'gross',
              scale: await scaleNamed(tx, job.scaleId),
            },
          }),
        }),
        sentAt: deviceAt,
        offsetMs: deviceAt - at.getTime(),
        now: at,
        today: todayIn(shop.timeZone),
      })
      if (refused.length > 0)
        throw new NotLikeThis({
          cylinder: refused.flatMap((r) => r.reasons.map(({ code }) => REASON_WORDS[code] ?? code)).join(' '),
        })
      // Asked last: it takes all of it back again until it is answered.
      if (cylinder) doubtStart(job, cylinder, refrigerant, shop.fillMarginPct)
    })
    return { jobId: job.jobId }
  } catch (error) {
    if (error instanceof NotLikeThis) return again(error.errors)
    if (error instanceof LabelTakenError) return again({ cylinder: error.message })
    throw error
  }
}

/** The one that was tapped or named, or one that is added here from its collar. */
async function cylinderFor(
  tx: ShopTx,
  job: NewJob,
  typed: Typed,
  at: Date,
): Promise<CylinderRow | undefined> {
  if (job.cylinderId) {
    const tapped = await cylinderOf(tx, job.cylinderId)
    if (!tapped)
      throw new NotLikeThis({ cylinder: 'Tap the cylinder again: it is not in this shop any more.' })
    return tapped
  }
  if (!job.cylinder) return undefined
  const known = (await findCylinders(tx, job.cylinder)).find(
    (c) => c.label.toLowerCase() === job.cylinder!.toLowerCase(),
  )
  if (known) return known
  if (!job.newId || (job.tare === undefined && !typed.tare))
    throw new NotLikeThis({
      cylinder: `No cylinder in use has the label "${job.cylinder}": look at the label, or add it from its collar below.`,
    })
  const errors: Record<string, string> = {}
  if (!job.refrigerant) errors.refrigerant = 'Choose what goes into it.'
  if (job.tare === undefined || job.tare <= 0) errors.tare = 'Enter the stamped tare weight (TW).'
  if (job.waterCapacity === undefined || job.waterCapacity <= 0)
    errors.waterCapacity = 'Enter the stamped water capacity (WC).'
  if (Object.keys(errors).length > 0) throw new NotLikeThis(errors)
  await addCylinder(
    tx,
    job.newId,
    {
      label: job.cylinder,
      kind: 'recovery',
      refrigerant: null,
      tareMg: job.tare!,
      waterCapacityMg: job.waterCapacity!,
      fillingRatio: null,
      ratioGas: null,
      workingFillPct: null,
      servicePressurePa: job.servicePressure ?? null,
      testedOn: job.testedOn ?? null,
      testYears: 5,
      flammableOk: false,
      condition: 'clean',
      ownerCustomerId: null,
      keepsAt: '',
    },
    at,
  )
  return cylinderOf(tx, job.newId)
}

/** A first weight that can hardly be is asked about once, here too: the page may have no scripts. */
function doubtStart(job: NewJob, cylinder: CylinderRow, refrigerant: string | null, marginPct: number) {
  if (job.startWeight === undefined || job.mode === 'net' || job.sure === String(job.startWeight)) return
  const asked = askAboutStart('recover', job.startWeight, {
    tareMg: cylinder.tareMg,
    bookedMg: cylinder.tareMg + cylinder.balanceMg,
    limitMg: grossLimitMg(cylinder, refrigerant, marginPct),
  })
  if (asked)
    throw new NotLikeThis({
      startWeight: `${QUESTION_WORDS[asked.code]}. Put it right, or press Go once more if the scale really shows it.`,
      sure: String(job.startWeight),
    })
}

/** One that is no longer in use was swapped meanwhile: the weight counts all the same. */
async function scaleNamed(tx: ShopTx, scaleId: string | undefined) {
  const [scale] = scaleId ? await kitOf(tx, [scaleId]) : []
  return scale && weighs(scale.kind) ? namedScale(scale) : undefined
}
