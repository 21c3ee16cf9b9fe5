import {
  foldTape,
  judgeNow,
  movedInAll,
  standingVerdict,
  type VerdictAbout,
  judgingContext,
} from '#core/tape'
import { inShop, movements } from '#db'
import { idOf } from '~/base/form/ids.server'
import { signedIn } from '~/base/session/signed-in.server'
import type { Route } from './+types/job-json'
import { loadJob } from '~/job-data/load.server'

const ABOUT: VerdictAbout[] = ['recovery', 'hold', 'charge', 'readings']
const MOST = 10_000

/** A job for other programs: entries as they were written, verdicts, and the movements that were booked. docs/job-json.md. */
export async function loader({ params, context }: Route.LoaderArgs) {
  const who = signedIn(context)
  const jobId = idOf(params.jobId)
  const data = await loadJob(who, jobId, { whole: true })
  const state = foldTape(data.entries)
  const inAll = movedInAll(state)
  const judging = judgingContext(data, state)
  const moved = await inShop(who.shop.shopId, (tx) => movements(tx, { jobId }, MOST))
  const body = {
    format: 'keg-job',
    version: 2,
    job: {
      jobId,
      number: data.number,
      title: state.title,
      status: state.status,
      refrigerant: state.refrigerant,
      gasChanges: state.gasChanges.map(({ at, from, to, reason }) => ({ at: iso(at), from, to, reason })),
      openedAt: iso(state.openedAt),
      closedAt: state.closedAt === undefined ? null : iso(state.closedAt),
      system: data.system && {
        systemId: data.system.systemId,
        name: data.system.name,
        customer: data.system.customer,
        site: data.system.site,
      },
    },
    recoveredMg: inAll.outMg,
    chargedMg: inAll.inMg,
    verdicts: ABOUT.flatMap((about) => {
      const given = standingVerdict(state, about, judging)
      const now = judgeNow(state, about, judging)
      return given || now
        ? [
            {
              about,
              given: given && {
                at: iso(given.at),
                verdict: given.verdict,
                engine: given.engine,
                stale: given.stale,
                overruled: given.overruled ?? null,
              },
              now: now ?? null,
            },
          ]
        : []
    }),
    movements: moved.map((each) => ({
      movementId: each.movementId,
      at: each.at.toISOString(),
      from: { place: each.fromPlace, label: each.fromLabel },
      to: { place: each.toPlace, label: each.toLabel },
      refrigerant: each.refrigerant,
      massMg: each.massMg,
      uncertaintyMg: each.uncertaintyMg,
      knownBy: each.knownBy,
    })),
    entries: state.lines.map(({ entry, time, struck, correctedBy }) => ({
      ...entry,
      trueTime: iso(time),
      struck,
      correctedBy: correctedBy?.entryId ?? null,
      by: data.people[entry.userId ?? ''] ?? null,
    })),
  }
  return new Response(JSON.stringify(body, null, 2), {
    headers: {
      'content-type': 'application/json; charset=utf-8',
      'content-disposition': `attachment; filename="keg-job-${data.number}.json"`,
      'cache-control': 'private, no-store',
    },
  })
}

const iso = (at: number) => new Date(at).toISOString()
