import {
  beforeRetrofit,
  bottlesInUse,
  busyElsewhere,
  chargeLags,
  cylinderGains,
  type CylinderRow,
  cylindersFor,
  cylindersOf,
  doubtsOfJob,
  dyedBefore,
  foldOpen,
  inShop,
  jobHead,
  kitAtPlace,
  lastCharged,
  kitOf,
  type LiveChannel,
  kitPlaces,
  liveChannels,
  liveKit,
  openTape,
  type OpenTape,
  pastRuns,
  people,
  presets,
  scalesInUse,
  stations,
  standIns,
  type SignedIn,
  systemBefore,
  systemOf,
  systems,
  tapeOf,
} from '#db'
import { kitAt } from '#core/tape'
import { found } from '~/form/ids.server'
import { choiceOf, SYSTEMS_SHOWN } from '~/systems/choice'
import { jobKit } from '~/kit/job-kit.server'
import type { LiveSource } from '~/samples/live-context'
import { preferencesOf } from '~/session/preferences'
import { now, todayIn } from '~/session/clock.server'

/** A cylinder as a job sees it: its books without what this job has moved. */
export interface JobCylinder extends CylinderRow {
  beforeMg: number
}

/**
 * A job's tape and all that the fold's readers need beside it: without signal the page goes on by itself.
 * @param whole every entry, also those that a checkpoint has in it: for paper
 */
export async function loadJob({ shop, person }: SignedIn, jobId: string, { whole = false } = {}) {
  return inShop(shop.shopId, async (tx) => {
    const head = found(await jobHead(tx, jobId), 'job')
    const [tape, everyone, gains] = await Promise.all([
      whole
        ? tapeOf(tx, jobId).then((entries): OpenTape => ({ checkpoint: null, entries }))
        : openTape(tx, jobId),
      people(tx),
      cylinderGains(tx, jobId),
    ])
    const state = await foldOpen(tx, jobId, tape)
    const used = [...new Set([...state.transfers, ...state.chosen].map((each) => each.cylinderId))]
    const opened = new Date(state.openedAt)
    const [system, before, charged, candidates, named, busy] = await Promise.all([
      state.systemId ? systemOf(tx, state.systemId) : undefined,
      state.systemId ? systemBefore(tx, state.systemId, jobId, opened) : null,
      state.systemId ? lastCharged(tx, state.systemId, jobId, opened) : null,
      state.refrigerant ? cylindersFor(tx, state.refrigerant, jobId) : [],
      cylindersOf(tx, used, jobId),
      busyElsewhere(tx, used, jobId),
    ])
    const van = preferencesOf(person.preferences).van
    const usedKit = [...new Set(state.kit.map((each) => each.kitId))]
    const machine = kitAt(state, ['machine', 'station'])
    const [ownKit, scales, moreKit, places, doubts, live, liveNow, past, lags, retrofitted, dyed] =
      await Promise.all([
        van ? kitAtPlace(tx, van) : [],
        scalesInUse(tx),
        kitOf(tx, usedKit),
        kitPlaces(tx),
        doubtsOfJob(tx, jobId),
        liveChannels(tx, jobId),
        liveKit(tx),
        machine ? pastRuns(tx, machine.kitId, jobId) : [],
        chargeLags(tx, person.userId, jobId),
        state.gasChanges.length > 0 ? beforeRetrofit(tx, jobId) : undefined,
        state.systemId ? dyedBefore(tx, state.systemId, jobId) : null,
      ])
    const today = todayIn(shop.timeZone)
    const bay = system?.trade === 'vehicle' || state.programmes.length > 0 ? await bayOf(tx) : null
    const kit = new Map([...ownKit, ...scales, ...moreKit].map((row) => [row.kitId, jobKit(row, today)]))
    const choices = state.systemId ? [] : await systems(tx, '', SYSTEMS_SHOWN + 1)
    const cylinders = new Map<string, JobCylinder>()
    for (const row of [...worthOffering(candidates), ...named])
      cylinders.set(row.cylinderId, { ...row, beforeMg: row.balanceMg - (gains.get(row.cylinderId) ?? 0) })
    return {
      jobId,
      number: head.number,
      ...tape,
      // A job that changed the gas is judged by the plate that it found.
      system: system
        ? {
            ...system,
            ...(retrofitted && {
              plateMg: retrofitted.wasPlateMg,
              plateText: retrofitted.wasPlateText,
              panelTotalMg: retrofitted.wasPanelMg,
            }),
          }
        : null,
      /** What the books had in the system when the job began; null: they do not know the whole of it. */
      booksBefore: before,
      /** When anybody charged it last before this job, ms; null: the books know of none. */
      lastCharged: charged?.getTime() ?? null,
      cylinders: [...cylinders.values()],
      /** Cylinders of this job that a transfer of another job is running on. */
      busy,
      systems: choices.map(choiceOf),
      people: Object.fromEntries(everyone.map((p) => [p.userId, p.name])),
      shop: { timeZone: shop.timeZone, marginPct: shop.fillMarginPct, heading: shop.heading },
      /** Kit to choose from: what is in the person's van, the shop's scales, and what the job used. */
      kit: [...kit.values()],
      van,
      places,
      /** Transfers that a scale weighed which failed its check since, as long as nobody decided. */
      doubts,
      /** What the machine of this job took out before, and in how long. */
      pastRuns: past,
      /** When another job dyed the system, ms; null: the books know of none. */
      dyedAt: dyed?.getTime() ?? null,
      /** How late this person closed the valve in past charges, s, the newest first. */
      chargeLags: lags,
      /** Channels that were kit of this job, and those of kit that it may take. */
      live: sourcesOf(live, liveNow, kit),
      standIns: await standIns(tx, devicesInUse(live)),
      /** The shop's service stations, its programmes, and the bottles that stand in them; of vehicles only. */
      bay,
      today,
      loadedAt: now().getTime(),
      mayWrite: person.role !== 'trainee',
    }
  })
}

/** What a programme is made of. */
async function bayOf(tx: Parameters<typeof stations>[0]) {
  const [all, known, bottles] = await Promise.all([stations(tx), presets(tx), bottlesInUse(tx)])
  return { stations: all, presets: known, bottles }
}

type KitById = ReadonlyMap<string, { label: string }>

/** What says something on this page: the job's own channels first. */
function sourcesOf(
  live: LiveChannel[],
  now: Awaited<ReturnType<typeof liveKit>>,
  kit: KitById,
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
    const piece = kit.get(kitId)
    return piece ? [{ deviceId, channel, kitId, kit: piece.label, own: false, inUse: false }] : []
  })
  const key = (each: LiveSource) => `${each.deviceId} ${each.channel} ${each.kitId}`
  // In use last, so that it wins over the same channel of an earlier span.
  const sorted = [...offered, ...own.toSorted((a, b) => Number(a.inUse) - Number(b.inUse))]
  return [...new Map(sorted.map((each) => [key(each), each])).values()]
}

const devicesInUse = (live: LiveChannel[]) => [
  ...new Set(live.filter((each) => each.until === null).map((each) => each.deviceId)),
]

const OFFERED = { used: 40, empty: 10, virgin: 20 }

/** Enough of each kind to choose from: the page names others by their label. The fullest come first. */
function worthOffering(candidates: CylinderRow[]): CylinderRow[] {
  const virgin = candidates.filter((c) => c.kind === 'virgin' || c.kind === 'one-way')
  const others = candidates.filter((c) => !virgin.includes(c))
  const empty = others.filter((c) => c.refrigerant === null)
  const used = others.filter((c) => c.refrigerant !== null)
  // The emptiest of them take what the fullest cannot.
  const fullest = used.slice(0, OFFERED.used / 2)
  const emptiest = used.slice(OFFERED.used / 2).slice(-OFFERED.used / 2)
  return [...fullest, ...emptiest, ...empty.slice(0, OFFERED.empty), ...virgin.slice(0, OFFERED.virgin)]
}

export type JobData = Awaited<ReturnType<typeof loadJob>>
