import {
  allCylinders,
  allKit,
  chargeLags,
  customers,
  deviceKeyOf,
  cylindersAtHand,
  cylindersOf,
  foldOpen,
  inShop,
  jobsFinished,
  jobsInHand,
  jobsWithClocks,
  kitAtPlace,
  kitPlaces,
  openTape,
  pastRuns,
  people,
  programmesRunning,
  runningJobs,
  type ShopTx,
  type SignedIn,
  sites,
  systemPasts,
  systems,
} from '#db'
import { callingIn } from '~/alarms/read.server'
import { TILES_SHOWN } from '~/cylinders/tile'
import { bayOf, besideOf } from '~/job-data/load.server'
import { usedBy } from '~/job-data/data'
import { dueItems } from '~/kit/due.server'
import { now, todayIn } from '~/base/session/clock.server'
import { preferencesOf } from '~/base/session/preferences'
import { PACK_FORMAT, type Pack } from './pack'

/** More than any shop has, but of jobs in hand: of those the ones touched last. */
const MOST = { cylinders: 20_000, systems: 20_000, kit: 20_000, jobs: 60 }
const DUE_DAYS = 365
const LATELY = 5
/** Of nobody: reads what a job that is not there yet would read. */
const NO_JOB = '00000000-0000-0000-0000-000000000000'

/** What one person's device takes along. */
export async function readPack({ shop, person }: SignedIn, origin: string): Promise<Pack> {
  const today = todayIn(shop.timeZone)
  const preferences = preferencesOf(person.preferences)
  const calling = await callingIn(shop.shopId, person.userId)
  return inShop(shop.shopId, async (tx) => {
    const jobs = await packedJobs(tx, person.userId)
    const [rows, atHand, plants, pasts, places, kit, owners, at, lags, bay, everyone, deviceKey] =
      await Promise.all([
        allCylinders(tx, MOST.cylinders),
        cylindersAtHand(tx, person.userId, TILES_SHOWN),
        systems(tx, '', MOST.systems),
        systemPasts(tx, MOST.systems),
        kitPlaces(tx),
        allKit(tx, MOST.kit),
        customers(tx),
        sites(tx),
        chargeLags(tx, person.userId, NO_JOB),
        bayOf(tx),
        people(tx),
        deviceKeyOf(tx, person.userId),
      ])
    const [lately, running, programmes, clocks, due, runs] = await Promise.all([
      jobsFinished(tx, LATELY),
      runningJobs(tx),
      programmesRunning(tx),
      jobsWithClocks(tx),
      dueItems(tx, today, DUE_DAYS),
      runsOfVan(tx, preferences.van),
    ])
    const known = new Set(rows.map((row) => row.cylinderId))
    const others = jobs.flatMap(({ used }) => used.filter((id) => !known.has(id)))
    return {
      format: PACK_FORMAT,
      at: now().getTime(),
      origin,
      person: { userId: person.userId, name: person.name, role: person.role, deviceKey },
      preferences,
      shop: {
        name: shop.name,
        timeZone: shop.timeZone,
        fillMarginPct: shop.fillMarginPct,
        heading: shop.heading,
      },
      people: Object.fromEntries(everyone.map((each) => [each.userId, each.name])),
      cylinders: [...rows, ...(await cylindersOf(tx, [...new Set(others)]))],
      atHand: atHand.map((each) => each.cylinderId),
      systems: plants,
      systemPasts: pasts,
      customers: owners,
      sites: at,
      kit,
      places,
      pastRuns: runs,
      chargeLags: lags,
      bay,
      jobs: jobs.map(({ used: _used, ...job }) => job),
      lately,
      running,
      programmes,
      clocks,
      calling,
      due,
    }
  })
}

/** One after another: their tapes are most of what is read. */
async function packedJobs(tx: ShopTx, userId: string) {
  const packed = []
  for (const summary of await jobsInHand(tx, MOST.jobs)) {
    const tape = await openTape(tx, summary.jobId)
    const state = await foldOpen(tx, summary.jobId, tape)
    packed.push({
      summary,
      tape,
      beside: await besideOf(tx, summary.jobId, state, userId),
      used: usedBy(state),
    })
  }
  return packed
}

async function runsOfVan(tx: ShopTx, van: string): Promise<Pack['pastRuns']> {
  const machines = van
    ? (await kitAtPlace(tx, van)).filter(({ kind }) => kind === 'machine' || kind === 'station')
    : []
  return Object.fromEntries(
    await Promise.all(machines.map(async ({ kitId }) => [kitId, await pastRuns(tx, kitId, NO_JOB)] as const)),
  )
}
