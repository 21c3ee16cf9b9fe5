import {
  type Alarm,
  dueAlarms,
  type Judged,
  judgePull,
  meteringAlarms,
  notYet,
  silentAlarms,
} from '#core/alarms'
import { grossLimitMg } from '#core/cylinders'
import {
  expectedIn,
  type JobState,
  leakKnown,
  openTransfer,
  runningProgramme,
  type Transfer,
} from '#core/tape'
import { atmospherePa, MG_PER_KG, STANDARD_ATMOSPHERE_PA } from '#core/units'
import { liveNetMg, standsNow } from '#core/watching'
import {
  alone,
  type CylinderRow,
  cylindersOf,
  foldOpen,
  forgetRunning,
  inShop,
  keepRunning,
  type LiveChannel,
  liveChannels,
  openTape,
  raiseAlarms,
  raisedIn,
  readShop,
  type Running,
  runningEverywhere,
  standIns,
  systemOf,
  type SystemRow,
} from '#db'
import { type Heard, hearOn, lastHeard, linesOf, nothingHeard } from './lines.server'

/** A number of its own among what is done by one process at a time. */
const WATCH = 1
/** An instrument that says nothing for so long is missed, ms. */
const LOST_MS = 30_000
/** What stands beside a tape may change without it: it is read again after so long, ms. */
const FRESH_MS = 30_000

/** What is known of a job in which something runs. */
interface Known {
  lastSeq: number
  readAt: number
  state: JobState
  system: SystemRow | null
  cylinder: CylinderRow | undefined
  marginPct: number
  channels: LiveChannel[]
  speed: number
  raised: Set<string>
  heard: Heard
  ran: boolean
}

const known = new Map<string, Known>()
/** Jobs that cannot be judged, each with when that was tried last: once a minute is enough, and says enough. */
const hopeless = new Map<string, number>()
const TRY_AGAIN_MS = 60_000

/**
 * Judges every job of every shop in which something runs, raises what is to be called, and keeps what goes on; one
 * process at a time. One job that fails holds up no other.
 * @returns how many were judged; undefined: another process is at it
 */
export async function watchRuns(
  now: () => Date,
  failed: (error: unknown, jobId: string) => void,
): Promise<number | undefined> {
  const done = await alone(WATCH, async () => {
    const jobs = await runningEverywhere()
    const running = new Set(jobs.map((each) => each.jobId))
    for (const each of [known, hopeless])
      for (const jobId of each.keys()) if (!running.has(jobId)) each.delete(jobId)
    for (const { shopId, jobId, lastSeq } of jobs) {
      const nowMs = now().getTime()
      if (nowMs - (hopeless.get(jobId) ?? -Infinity) < TRY_AGAIN_MS) continue
      hopeless.delete(jobId)
      await watchJob(shopId, jobId, lastSeq, now()).catch((error: unknown) => {
        known.delete(jobId)
        hopeless.set(jobId, nowMs)
        failed(error, jobId)
      })
    }
    return jobs.length
  })
  return done?.result
}

async function watchJob(shopId: string, jobId: string, lastSeq: number, now: Date): Promise<void> {
  await inShop(shopId, async (tx) => {
    const nowMs = now.getTime()
    const before = known.get(jobId)
    const job =
      before?.lastSeq === lastSeq && nowMs - before.readAt < FRESH_MS
        ? before
        : await readJob(tx, jobId, lastSeq, nowMs, before)
    known.set(jobId, job)
    const { state, channels, heard } = job
    const transfer = openTransfer(state)
    await hearOn(tx, heard, channels, transfer?.startedAt ?? nowMs - LOST_MS * 2, now)
    // A station watches its own pull, rests in it, and calls by itself.
    const watched = transfer?.use === 'recover' && state.status === 'open' && !runningProgramme(state)
    const judged = watched ? judge(job, jobId, transfer, nowMs) : undefined
    const silent = [...lastHeard(heard, channels)]
      .filter(([, last]) => nowMs - last > LOST_MS)
      .map(([deviceId, since]) => ({ deviceId, since }))
    const wanted: Alarm[] = [
      ...(judged?.alarms ?? []),
      ...(transfer?.use === 'charge' ? metered(job, jobId, transfer, nowMs) : []),
      ...dueAlarms(state, nowMs),
      ...silentAlarms(state, silent),
    ]
    const fresh = notYet(wanted, job.raised, state)
    for (const { cause } of fresh) job.raised.add(cause)
    await raiseAlarms(tx, jobId, fresh, now)
    if (judged && transfer) {
      await keepRunning(tx, jobId, transfer.transferId, asRunning(job, jobId, transfer, judged), now)
      job.ran = true
    } else if (job.ran) {
      await forgetRunning(tx, jobId)
      job.ran = false
    }
  })
}

async function readJob(
  tx: Parameters<Parameters<typeof inShop>[1]>[0],
  jobId: string,
  lastSeq: number,
  nowMs: number,
  before: Known | undefined,
): Promise<Known> {
  const state = await foldOpen(tx, jobId, await openTape(tx, jobId))
  const transfer = openTransfer(state)
  const [system, cylinders, shop, live, raised] = await Promise.all([
    state.systemId ? systemOf(tx, state.systemId) : undefined,
    transfer ? cylindersOf(tx, [transfer.cylinderId], jobId) : [],
    readShop(tx),
    liveChannels(tx, jobId),
    raisedIn(tx, jobId),
  ])
  const channels = live.filter((each) => each.until === null)
  const players = await standIns(tx, [...new Set(channels.map((each) => each.deviceId))])
  return {
    lastSeq,
    readAt: nowMs,
    state,
    system: system ?? null,
    cylinder: cylinders[0],
    marginPct: shop.fillMarginPct,
    channels,
    speed: Math.max(1, ...players.map((each) => Number(each.state?.speed) || 1)),
    raised,
    heard: before?.heard ?? nothingHeard(),
    // What an earlier process kept is taken away, too.
    ran: before?.ran ?? true,
  }
}

const placeOf = ({ system, state, speed }: Known, jobId: string, nowMs: number) => ({
  atmospherePa: system?.altitudeM ? atmospherePa(system.altitudeM) : undefined,
  expected: expectedIn({ jobId, system }, state),
  trade: system?.trade ?? ('stationary' as const),
  speed,
  nowMs,
})

function judge(job: Known, jobId: string, transfer: Transfer, nowMs: number): Judged {
  const { state, cylinder } = job
  const lines = linesOf(job.heard, job.channels, transfer.segments.at(-1)!.scaleId)
  const { scale: { leftMg } = {}, share } = onItsScale(job, transfer) ?? {}
  const rating = cylinder?.servicePressurePa
  return judgePull(state, transfer, lines, placeOf(job, jobId, nowMs), {
    roomKg: leftMg === undefined ? undefined : leftMg / MG_PER_KG,
    share,
    leaking: leakKnown(state),
    // Stamped as a gauge shows it, kept absolute.
    ratingPa: rating ? rating - STANDARD_ATMOSPHERE_PA : undefined,
  })
}

const metered = (job: Known, jobId: string, transfer: Transfer, nowMs: number) =>
  meteringAlarms(
    job.state,
    transfer,
    linesOf(job.heard, job.channels, transfer.segments.at(-1)!.scaleId),
    placeOf(job, jobId, nowMs),
  )

/** The cylinder as it stands on its scale this moment; undefined: nobody has named it. */
function onItsScale({ state, cylinder, marginPct, heard, channels }: Known, transfer: Transfer) {
  if (!cylinder) return undefined
  const spoken = linesOf(heard, channels, transfer.segments.at(-1)!.scaleId)('weight').at(-1)
  // What was noted since counts for more.
  const isNewest = spoken && spoken[0] >= (transfer.weighings.at(-1)?.at ?? 0)
  return standsNow(
    transfer,
    {
      tareMg: cylinder.tareMg,
      // Its books have in them what this transfer has brought so far, or taken.
      contentsBeforeMg:
        cylinder.balanceMg - (transfer.use === 'recover' ? transfer.amountMg : -transfer.amountMg),
      grossLimitMg: grossLimitMg(cylinder, state.refrigerant, marginPct),
    },
    isNewest ? liveNetMg(transfer, Math.round(spoken[1] * MG_PER_KG), spoken[0]) : undefined,
  )
}

function asRunning(job: Known, jobId: string, transfer: Transfer, judged: Judged): Running {
  const { state, kgPerS, movedKg, left } = judged
  const [leastS, mostS] =
    left && 'leastS' in left ? [left.leastS / job.speed, left.mostS / job.speed] : [null, null]
  return {
    code: state.code,
    kgPerS: kgPerS ?? null,
    movedMg: Math.max(Math.round(movedKg * MG_PER_KG), transfer.amountMg),
    expectedMg: expectedIn({ jobId, system: job.system }, job.state)?.massMg ?? null,
    share: onItsScale(job, transfer)?.share ?? null,
    cylinder: job.cylinder?.label ?? '',
    leastS,
    mostS: mostS !== null && Number.isFinite(mostS) ? mostS : null,
  }
}
