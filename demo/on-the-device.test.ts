// What a device opens is what the server would have shown: the same pages, of the made-up harbour, both ways.
import { afterAll, expect, it } from 'vitest'
import type { RouterContextProvider } from 'react-router'
import { inShop, jobsInHand, openSession, people } from '#db'
import { ownDatabase } from '../testing/a-database'
import { loadHarbour } from './harbour'
import { idFor } from './ids'
import { through } from '../testing/a-request'
import { loader as bench } from '~/routes/bench/bench'
import { loader as due } from '~/routes/bench/due'
import * as benchHere from '~/pages/bench/from-device'
import { loader as cylinder } from '~/routes/cylinders/cylinder'
import * as cylindersHere from '~/pages/cylinders/from-device'
import { loader as rack } from '~/routes/cylinders/rack'
import { loader as find } from '~/routes/frame/find'
import { findHere } from '~/pages/frame/find-here'
import { loader as frame } from '~/routes/frame/frame'
import * as frameHere from '~/pages/frame/from-device'
import * as jobHere from '~/pages/jobs/job-from-device'
import { loader as job } from '~/routes/job/job'
import { loader as label } from '~/routes/job/label'
import { loader as newJob } from '~/routes/jobs/new/new'
import * as newHere from '~/pages/jobs/new/from-device'
import * as kitHere from '~/pages/kit/from-device'
import { loader as kitList } from '~/routes/kit/list'
import * as labelsHere from '~/pages/labels/from-device'
import { loader as labels } from '~/routes/labels/labels'
import * as ruleHere from '~/pages/slide-rule/from-device'
import { loader as tool } from '~/routes/slide-rule/tool'
import * as systemsHere from '~/pages/systems/from-device'
import { loader as system } from '~/routes/systems/system'
import { loader as systemList } from '~/routes/systems/systems'
import { tidyAddress } from '~/pages/slide-rule/page'
import { TOOLS, toolNamed } from '~/slide-rule/tools'
import { preferencesOf } from '~/base/session/preferences'
import { Device } from '~/device/known/device'
import { asText, fromText, type Pack, packIn } from '~/device/pack/pack'
import { readPack } from '~/device/pack/pack.server'
import type { FromDevice } from '~/device/page/page'

const NOW = new Date('2026-11-24T10:40:00Z')
const ORIGIN = 'http://keg.test'
const shopId = idFor('shop')

let context: RouterContextProvider
let pack: Pack
let device: Device

ownDatabase('keg_on_the_device_test', async () => {
  process.env.KEG_NOW = NOW.toISOString()
  await loadHarbour(NOW)
  const everyone = await inShop(shopId, people)
  const person = everyone.find(
    ({ role, preferences }) => role === 'technician' && preferencesOf(preferences).van,
  )!
  const token = await openSession(shopId, person.userId)
  context = await through(token, '/')
  const { signedIn } = await import('~/base/session/signed-in.server')
  pack = packIn(fromText(asText(await readPack(signedIn(context), ORIGIN))))!
  device = new Device({ pack, learned: {} }, [])
})
afterAll(() => delete process.env.KEG_NOW)

type Loader = (args: never) => unknown

/** A page both ways. What is made once for each page, and what instruments say, is left out. */
async function both<T, P>(
  loader: Loader,
  here: FromDevice<T, P>,
  path: string,
  params: Record<string, string> = {},
) {
  const url = new URL(path, ORIGIN)
  const answer = await loader({ request: new Request(url), context, params } as never)
  const there = answer instanceof Response ? ((await answer.json()) as unknown) : answer
  const own = await here(device, {
    params: params as P,
    search: url.searchParams,
    at: NOW.getTime(),
    unknownThere: false,
  })
  return { there: plain(there), here: plain(own) }
}

const LEFT_OUT = ['jobId!', 'runId', 'newId', 'live', 'standIns']
const plain = (page: unknown): unknown =>
  JSON.parse(JSON.stringify(page, (key, value: unknown) => (LEFT_OUT.includes(key) ? undefined : value)))

it('the pack comes out of text as it went in, times and all', async () => {
  const made = {
    at: new Date(5),
    list: [{ when: new Date(7), name: '2026-11-24T10:40:00.000Z' }],
    none: null,
  }
  expect(fromText(asText(made))).toEqual(made)
  expect(packIn({ ...pack, format: 99 })).toBeUndefined()
  // The short cut of another fold is not folded on from.
  const [first, ...others] = pack.jobs
  const older = { ...first!, tape: { checkpoint: { foldVersion: 1 }, entries: [] } }
  expect(packIn({ ...pack, jobs: [older, ...others] })!.jobs).toEqual(others)
})

it('what stands around a page', async () => {
  const { there, here } = await both(frame, frameHere.frame, '/')
  const { running, ...rest } = there as { running: object }
  expect(here).toEqual({ ...rest, running: { ...running, takenAlong: true } })
})

it('the Bench, and what is due', async () => {
  const page = await both(bench, benchHere.bench, '/')
  expect(page.here).toEqual(page.there)
  const list = await both(due, benchHere.due, '/due')
  expect(list.here).toEqual(list.there)
})

it('what is due grows overdue on the device, too', async () => {
  const at = NOW.getTime() + 30 * 86_400_000
  const wish = { params: {}, search: new URLSearchParams(), at, unknownThere: false }
  const [then, later] = [pack.due, (await benchHere.due(device, wish))!.due]
  const passed = then.filter(({ on }) => on < device.today(at)).map(({ id }) => id)
  expect(then.filter(({ id, overdue }) => passed.includes(id) && !overdue)).not.toEqual([])
  expect(later.filter(({ overdue }) => overdue).map(({ id }) => id)).toEqual(passed)
})

it.each([
  '',
  '?refrigerant=R-410A',
  '?label=gu',
  '?as=list&sort=-balance',
  '?as=list&sort=testDue',
  '?page=2',
])('the rack %s', async (search) => {
  const { there, here } = await both(rack, cylindersHere.rack, `/cylinders${search}`)
  expect(here).toEqual(there)
})

it('each cylinder, but for what the ledger says of it', async () => {
  for (const { cylinderId } of pack.cylinders) {
    const { there, here } = await both(cylinder, cylindersHere.cylinder, '/', { cylinderId })
    const {
      ledger: _ledger,
      judged: _judged,
      prepared: _prepared,
      ...rest
    } = there as Record<string, unknown>
    expect(here).toEqual({ ...rest, ledger: null, judged: null, prepared: null })
  }
})

it.each(['', '?search=harbour', '?sort=-customer', '?sort=refrigerant'])('systems %s', async (search) => {
  const { there, here } = await both(systemList, systemsHere.systemList, `/systems${search}`)
  expect(here).toEqual(there)
})

it('each system: what should be in it, and what the books have in it', async () => {
  for (const { systemId } of pack.systems) {
    const { there, here } = await both(system, systemsHere.system, '/', { systemId })
    const { jobs, past: _past, ...rest } = there as { jobs: { status: string }[]; past: unknown }
    const inHand = jobs.filter(({ status }) => status === 'open' || status === 'waiting')
    expect(here).toEqual({ ...rest, past: null, jobs: inHand })
  }
})

it.each(['', '?kind=scale', '?place=van', '?sort=-dueOn', '?label=a'])('kit %s', async (search) => {
  const { there, here } = await both(kitList, kitHere.kitList, `/kit${search}`)
  expect(here).toEqual(there)
})

it.each(['', '?what=systems', '?what=kit&label=a'])('labels %s', async (search) => {
  const { there, here } = await both(labels, labelsHere.labels, `/labels${search}`)
  expect(here).toEqual(there)
})

it('a new job: the cylinders at hand in their order, scales and systems', async () => {
  const { there, here } = await both(newJob, newHere.newJob, '/jobs/new')
  const { jobId: _there, ...asThere } = there as Record<string, unknown>
  const { jobId: _here, ...asHere } = here as Record<string, unknown>
  expect(asHere).toEqual(asThere)
})

it('every job in hand: tape, books, cylinders, kit', async () => {
  const inHand = await inShop(shopId, (tx) => jobsInHand(tx))
  expect(inHand.length).toBeGreaterThanOrEqual(5)
  for (const { jobId } of inHand) {
    const { there, here } = await both(job, jobHere.job, '/', { jobId })
    expect(here).toEqual(there)
  }
  const { jobId } = inHand[0]!
  const paper = await both(label, jobHere.label, `/jobs/${jobId}/label`, { jobId })
  expect((paper.here as { code: string }).code).toBe((paper.there as { code: string }).code)
})

it.each(['gul', 'r-410', 'pressure', 'harbour', '1'])(
  'the finder for %s, among what is taken along',
  async (q) => {
    const answer = await (find({
      request: new Request(`${ORIGIN}/find?q=${q}`),
      context,
      params: {},
    } as never) as Promise<Response>)
    const there = (await answer.json()) as ReturnType<typeof findHere>
    const here = findHere(device, new URLSearchParams({ q }))
    const inHand = new Set(device.inHand().map(({ jobId }) => `/jobs/${jobId}`))
    const known = ({ group, to }: { group: string; to: string }) => group !== 'Jobs' || inHand.has(to)
    expect(new Set(here.found.map(({ to }) => to))).toEqual(
      new Set(there.found.filter(known).map(({ to }) => to)),
    )
  },
)

it.each(TOOLS.map((each) => each.name))('%s works its example out alike', async (toolName) => {
  const { example } = TOOLS.find((each) => each.name === toolName)!
  const given = new URLSearchParams(example)
  const reading = { units: pack.preferences.units }
  const path = tidyAddress(toolNamed(toolName)!, given, reading) ?? `/slide-rule/${toolName}?${given}`
  const { there, here } = await both(tool, ruleHere.tool, path, { tool: toolName })
  expect((here as { outcome: unknown }).outcome).toBeDefined()
  expect(here).toEqual(there)
})
