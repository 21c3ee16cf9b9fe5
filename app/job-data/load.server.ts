import type { JobState } from '#core/tape'
import {
  beforeRetrofit,
  bottlesInUse,
  busyElsewhere,
  chargeLags,
  cylinderGains,
  cylindersFor,
  cylindersOf,
  doubtsOfJob,
  dyedBefore,
  foldOpen,
  inShop,
  jobHead,
  kitAtPlace,
  kitOf,
  kitPlaces,
  lastCharged,
  type LiveChannel,
  liveChannels,
  liveKit,
  openTape,
  type OpenTape,
  pastRuns,
  people,
  presets,
  scalesInUse,
  type ShopTx,
  type SignedIn,
  standIns,
  stations,
  systemBefore,
  systemOf,
  systems,
  tapeOf,
} from '#db'
import { found } from '~/base/form/ids.server'
import { now, todayIn } from '~/base/session/clock.server'
import type { LiveSource } from '~/samples/live-source'
import { preferencesOf } from '~/base/session/preferences'
import { SYSTEMS_SHOWN } from '~/systems/choice'
import { type Bay, inBay, type JobBeside, jobData, kitUsedBy, machineOf, usedBy } from './data'

/**
 * A job's tape and all that the fold's readers need beside it: without signal the page goes on by itself.
 * @param whole every entry, also those that a checkpoint has in it: for paper
 */
export async function loadJob({ shop, person }: SignedIn, jobId: string, { whole = false } = {}) {
  return inShop(shop.shopId, async (tx) => {
    const head = found(await jobHead(tx, jobId), 'job')
    const [tape, everyone] = await Promise.all([
      whole
        ? tapeOf(tx, jobId).then((entries): OpenTape => ({ checkpoint: null, entries }))
        : openTape(tx, jobId),
      people(tx),
    ])
    const state = await foldOpen(tx, jobId, tape)
    const van = preferencesOf(person.preferences).van
    const [beside, system, candidates, named, ownKit, scales, moreKit, places, live, liveNow, choices] =
      await Promise.all([
        besideOf(tx, jobId, state, person.userId),
        state.systemId ? systemOf(tx, state.systemId) : undefined,
        state.refrigerant ? cylindersFor(tx, state.refrigerant, jobId) : [],
        cylindersOf(tx, usedBy(state), jobId),
        van ? kitAtPlace(tx, van) : [],
        scalesInUse(tx),
        kitOf(tx, kitUsedBy(state)),
        kitPlaces(tx),
        liveChannels(tx, jobId),
        liveKit(tx),
        state.systemId ? [] : systems(tx, '', SYSTEMS_SHOWN + 1),
      ])
    const kit = [...ownKit, ...scales, ...moreKit]
    const labels = new Map(kit.map((row) => [row.kitId, row.label]))
    return jobData({
      jobId,
      number: head.number,
      tape,
      state,
      beside,
      system,
      candidates,
      named,
      kit,
      places,
      choices,
      live: sourcesOf(live, liveNow, labels),
      standIns: await standIns(tx, devicesInUse(live)),
      bay: inBay(state, system) ? await bayOf(tx) : null,
      people: Object.fromEntries(everyone.map((p) => [p.userId, p.name])),
      van,
      shop,
      today: todayIn(shop.timeZone),
      loadedAt: now().getTime(),
      mayWrite: person.role !== 'trainee',
    })
  })
}

/** What the books know of a job beside its tape. */
export async function besideOf(
  tx: ShopTx,
  jobId: string,
  state: JobState,
  userId: string,
): Promise<JobBeside> {
  const { systemId } = state
  const opened = new Date(state.openedAt)
  const machine = machineOf(state)
  const [before, charged, dyed, gains, busy, doubts, past, lags, plateWas] = await Promise.all([
    systemId ? systemBefore(tx, systemId, jobId, opened) : null,
    systemId ? lastCharged(tx, systemId, jobId, opened) : null,
    systemId ? dyedBefore(tx, systemId, jobId) : null,
    cylinderGains(tx, jobId),
    busyElsewhere(tx, jobId),
    doubtsOfJob(tx, jobId),
    machine ? pastRuns(tx, machine.kitId, jobId) : [],
    chargeLags(tx, userId, jobId),
    state.gasChanges.length > 0 ? beforeRetrofit(tx, jobId) : undefined,
  ])
  return {
    booksBefore: before?.whole ? { massMg: before.massMg } : null,
    inBooksMg: before?.massMg ?? 0,
    lastCharged: charged?.getTime() ?? null,
    dyedAt: dyed?.getTime() ?? null,
    gains: [...gains],
    busy,
    doubts,
    pastRuns: past,
    chargeLags: lags,
    plateWas: plateWas ?? null,
  }
}

/** What a programme is made of. */
export async function bayOf(tx: ShopTx): Promise<Bay> {
  const [all, known, bottles] = await Promise.all([stations(tx), presets(tx), bottlesInUse(tx)])
  return { stations: all, presets: known, bottles }
}

/** What says something on this page: the job's own channels first. */
function sourcesOf(
  live: LiveChannel[],
  now: Awaited<ReturnType<typeof liveKit>>,
  labels: ReadonlyMap<string, string>,
): LiveSource[] {
  const own = live.map(({ deviceId, channel, kitId, kit: label, until }) => ({
    deviceId,
    channel,
    kitId,
    kit: label,
    own: true,
    inUse: until === null,
  }))
  const offered = now.flatMap(({ deviceId, channel, kitId }) => {
    const label = labels.get(kitId)
    return label === undefined ? [] : [{ deviceId, channel, kitId, kit: label, own: false, inUse: false }]
  })
  const key = (each: LiveSource) => `${each.deviceId} ${each.channel} ${each.kitId}`
  // In use last, so that it wins over the same channel of an earlier span.
  const sorted = [...offered, ...own.toSorted((a, b) => Number(a.inUse) - Number(b.inUse))]
  return [...new Map(sorted.map((each) => [key(each), each])).values()]
}

const devicesInUse = (live: LiveChannel[]) => [
  ...new Set(live.filter((each) => each.until === null).map((each) => each.deviceId)),
]
