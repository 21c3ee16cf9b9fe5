// Whatever is sent to any form or resource, a server that is signed in to answers with a sentence, never with a fault.
import { readFileSync } from 'node:fs'
import { randomUUID } from 'node:crypto'
import fc from 'fast-check'
import { addKit, bookReweigh, inShop } from '#db'
import routes from '../app/routes'
import { cookieOf } from '../testing/a-session'
import { aJob, anEntry, note } from '../testing/a-shop'
import { aCylinder, aSystem, expect, type Harbour, test } from './shop'

const nobody = randomUUID()
const NASTY = [
  'scale-check',
  'purged',
  'station',
  'kit',
  'cylinders',
  '',
  ' ',
  '\0',
  '\u202e',
  'a\ud800b',
  'constructor',
  '__proto__',
  'toString',
  '{"a":1}',
  '[[[[',
  '[null]',
  '[{"kind":{}}]',
  '-1',
  '1e999',
  'NaN',
  '99999999999999999999',
  '1.1',
  '9999-12-31',
  '2026-02-31',
  '+275760-09-13T00:00:00.000Z',
  '2100-01-01',
  nobody,
  nobody.toUpperCase(),
  `{${nobody}}`,
  "'; drop table entry; --",
  '%',
  '\\',
  'x'.repeat(3_000),
  '½',
  '１２',
  '=1+1',
  'on',
  'clean',
  'judge',
  'reweigh',
  'gross',
  '12 kg',
  '3-9',
]

interface Place {
  path: string
  /** Names of what its form has, besides any. */
  fields: string[]
}

/** Every route there is, with ids of this shop in it: a new one has to be named here. */
async function placesOf(shop: Harbour): Promise<Record<string, Place>> {
  const [cylinder, system, job] = await Promise.all([aCylinder(shop), aSystem(shop), aJob(shop)])
  await note(shop, job, anEntry('job-described', { systemId: system, refrigerant: 'R-410A' }))
  await inShop(shop.shopId, (tx) =>
    bookReweigh(tx, {
      voucherId: randomUUID(),
      cylinderId: cylinder,
      grossMg: 14e6,
      at: new Date(),
      now: new Date(),
      userId: shop.userId,
      text: '',
    }),
  )
  const scale = randomUUID()
  await inShop(shop.shopId, (tx) =>
    addKit(
      tx,
      scale,
      { kind: 'station', label: `S ${scale}`, keepsAt: '', facts: {}, state: 'in-use' },
      new Date(),
    ),
  )
  const at = (path: string, ...fields: string[]): Place => ({ path, fields })
  const cylinderForm = [
    'label',
    'kind',
    'refrigerant',
    'tare',
    'waterCapacity',
    'fillingRatio',
    'servicePressure',
    'testedOn',
    'testYears',
    'condition',
    'ownerCustomerId',
    'contents',
    'version',
    'cylinderId',
    'voucherId',
  ]
  const systemForm = [
    'name',
    'customer',
    'site',
    'altitude',
    'trade',
    'refrigerant',
    'plate',
    'lines',
    'accessories',
    'metering',
    'subcooling',
    'version',
    'systemId',
    'entryId',
    'jobId',
  ]
  const kitForm = [
    'kind',
    'kitId',
    'version',
    'label',
    'keepsAt',
    'state',
    'capacityMg',
    'divisionMg',
    'accuracyMg',
    'flammableOk',
    'cutOutPa',
    'shutDown',
    'tankId',
    'checkDays',
    'fullScalePa',
  ]
  const settings = [
    'intent',
    'userId',
    'role',
    'access',
    'version',
    'tokensTo',
    'tokenId',
    'tokenName',
    'name',
    'signIn',
    'newPassword',
    'timeZone',
    'fillMarginPct',
    'sampleDays',
    'weight',
    'theme',
    'van',
  ]
  return {
    'sign-in': at('/sign-in', 'signIn', 'password', 'to'),
    'first-run': at('/first-run', 'code', 'shop', 'timeZone', 'name', 'signIn', 'password', 'units'),
    // Signed out for good afterwards: it is asked without its cookie.
    'sign-out': at('/nowhere'),
    shell: at('/shell'),
    pack: at('/pack'),
    made: at('/made', 'userId', 'makings'),
    'api/v1/calc/:tool': at('/api/v1/calc/fill', 'refrigerant', 'wc_kg', 'units'),
    'api/v1/openapi.json': at('/api/v1/openapi.json'),
    'api/v1/pairings': at('/api/v1/pairings', 'code', 'name', 'channels', 'standIn'),
    'api/v1/samples': at('/api/v1/samples', 'samples'),
    'api/v1/devices/:deviceId/commands': at(`/api/v1/devices/${scale}/commands`, 'after', 'wait'),
    'api/v1/devices/:deviceId/state': at(`/api/v1/devices/${scale}/state`, 'speed'),
    'api/v1/devices/:deviceId/programme': at(
      `/api/v1/devices/${scale}/programme`,
      'programmeId',
      'sentAt',
      'reports',
    ),
    'api/*': at('/api/what'),
    '': at('/'),
    jobs: at('/jobs', 'sort', 'page', 'status', 'search', 'columns'),
    'jobs/new': at(
      '/jobs/new',
      'jobId',
      'runId',
      'systemId',
      'title',
      'refrigerant',
      'cylinder',
      'startWeight',
      'mode',
      'way',
      'cylinderId',
      'sure',
      'newId',
      'tare',
      'waterCapacity',
      'servicePressure',
      'testedOn',
      'at',
      'deviceId',
      'deviceSeq',
      'system',
      'scaleId',
    ),
    'jobs/:jobId': at(`/jobs/${job}`, 'line'),
    'jobs/:jobId/tape': at(`/jobs/${job}/tape`, 'after'),
    'jobs/:jobId/samples': at(`/jobs/${job}/samples`),
    'jobs/:jobId/programme': at(`/jobs/${job}/programme`, 'act', 'sent', 'presetId'),
    'jobs/:jobId/photos': at(`/jobs/${job}/photos`, 'photo', 'photoId', 'userId'),
    'jobs/:jobId/photos/:photoId': at(`/jobs/${job}/photos/${randomUUID()}`),
    'jobs/:jobId/label': at(`/jobs/${job}/label`),
    'jobs/:jobId/report': at(`/jobs/${job}/report`),
    'jobs/:jobId/report.pdf': at(`/jobs/${job}/report.pdf`, 'copy'),
    'jobs/:jobId/job.json': at(`/jobs/${job}/job.json`),
    'jobs/:jobId/cylinder-labels': at(`/jobs/${job}/cylinder-labels`),
    cylinders: at('/cylinders', 'page', 'refrigerant', 'label', 'retired', 'as', 'sort', 'columns'),
    'cylinders/new': at('/cylinders/new', ...cylinderForm),
    'cylinders/find': at('/cylinders/find', 'label', 'job', 'as'),
    'cylinders/:cylinderId': at(
      `/cylinders/${cylinder}`,
      'kind',
      'version',
      'voucherId',
      'weight',
      'rest',
      'condition',
      'text',
      'proved',
      'pulled',
      'left',
    ),
    'cylinders/:cylinderId/decant': at(
      `/cylinders/${cylinder}/decant`,
      'voucherId',
      'giverId',
      'on',
      'before',
      'after',
      'scrapped',
      'text',
      'from',
      'countersigner',
      'countersignPassword',
    ),
    'cylinders/:cylinderId/change': at(`/cylinders/${cylinder}/change`, ...cylinderForm),
    kit: at('/kit', 'kind', 'place', 'label', 'state', 'sort', 'page', 'columns'),
    'kit/new': at('/kit/new', ...kitForm),
    'kit/find': at('/kit/find', 'place', 'label'),
    'kit/:kitId': at(
      `/kit/${scale}`,
      'what',
      'actId',
      'known',
      'read',
      'on',
      'text',
      'passed',
      'hours',
      'ml',
      'mass',
      'cylinderId',
      'transferId',
      'jobId',
      'how',
    ),
    'kit/devices': at('/kit/devices', 'act', 'deviceId', 'name', 'channel', 'kitId'),
    'kit/devices/:deviceId/command': at(`/kit/devices/${scale}/command`, 'command'),
    'kit/:kitId/change': at(`/kit/${scale}/change`, ...kitForm),
    due: at('/due'),
    'due.ics': at('/due.ics'),
    labels: at('/labels', 'what', 'id', 'label', 'skip'),
    exchange: at('/exchange', 'what', 'text', 'agreed'),
    'exchange/csv': at('/exchange/csv', 'what', 'template'),
    'exchange/archive': at('/exchange/archive', 'archive'),
    systems: at('/systems', 'search', 'sort', 'page', 'columns'),
    'systems/new': at('/systems/new', 'job', ...systemForm),
    'systems/vehicle-data': at('/systems/vehicle-data', 'vin', 'registration'),
    'systems/find': at('/systems/find', 'search', 'name'),
    'systems/:systemId': at(`/systems/${system}`),
    'systems/:systemId/change': at(`/systems/${system}/change`, ...systemForm),
    'slide-rule': at('/slide-rule'),
    'slide-rule/:tool': at('/slide-rule/leak-rate', 'refrigerant', 'full', 'add_1_mass', 'add_1_days'),
    'slide-rule/vacuum-hold': at('/slide-rule/vacuum-hold', 'readings', 'previous', 'ambient', 'volume'),
    find: at('/find', 'q', 'search'),
    'needs-signal': at('/needs-signal'),
    ledger: at('/ledger', 'refrigerant', 'cylinder', 'from', 'to', 'part', 'before', 'nr'),
    'ledger.csv': at('/ledger.csv', 'refrigerant', 'cylinder', 'from', 'to', 'part'),
    'ledger/month': at('/ledger/month', 'month', 'from', 'to'),
    'ledger/conservation': at('/ledger/conservation', 'from', 'to', 'month'),
    'ledger/conservation.csv': at('/ledger/conservation.csv', 'from', 'to', 'month'),
    'ledger/oil': at('/ledger/oil', 'from', 'to'),
    'ledger/oil.csv': at('/ledger/oil.csv', 'from', 'to'),
    'ledger/month.csv': at('/ledger/month.csv', 'month', 'from', 'to'),
    settings: at('/settings', ...settings),
    events: at('/nowhere'),
    clocks: at('/clocks'),
    alarms: at('/alarms'),
    '*': at('/nowhere/else'),
  }
}

/** Answered by the server before it comes to the routes. */
const PAST_THE_ROUTES = ['api/v1/samples']

test('every route is among those that are tried', async ({ shop }) => {
  const paths = (list: { path?: string; children?: unknown }[], above = ''): string[] =>
    list.flatMap((route) => {
      const path = [above, route.path].filter(Boolean).join('/')
      const below = paths((route.children ?? []) as never, path)
      return route.children ? below : [path]
    })
  expect(Object.keys(await placesOf(shop)).sort()).toEqual(
    [...paths(await routes), ...PAST_THE_ROUTES].sort(),
  )
})

test('forms and resources answer anything with less than a fault', async ({ shop, baseURL }) => {
  const places = Object.entries(await placesOf(shop))
  const cookie = cookieOf(shop.cookies.metric)
  const pick = fc.constantFrom(...NASTY)
  const asked = fc.record({
    place: fc.constantFrom(...places.map(([, place]) => place)),
    method: fc.constantFrom('GET', 'POST', 'POST', 'POST'),
    kind: fc.constantFrom('form', 'form', 'form', 'form', 'json', 'text', 'no-type', 'multipart', 'broken'),
    values: fc.array(fc.tuple(fc.nat(30), pick), { maxLength: 12 }),
  })
  await fc.assert(
    fc.asyncProperty(asked, async ({ place, method, kind, values }) => {
      const named = values.map(
        ([i, value]) => [place.fields[i % Math.max(1, place.fields.length)] ?? 'x', value] as const,
      )
      const query =
        method === 'GET' ? `?${new URLSearchParams(named.map(([k, v]) => [k, v.toWellFormed()]))}` : ''
      const response = await fetch(baseURL + place.path + query, {
        method,
        redirect: 'manual',
        headers: { cookie, 'sec-fetch-site': 'same-origin', ...typeOf(kind) },
        body: method === 'POST' ? bodyOf(kind, named) : null,
      })
      await response.arrayBuffer()
      expect(
        response.status,
        `${method} ${place.path}${query} ${kind} ${JSON.stringify(named)}`,
      ).toBeLessThan(500)
    }),
    { numRuns: 500 },
  )
})

test('batches of entries answer anything with less than a fault', async ({ shop, baseURL }) => {
  const { path } = (await placesOf(shop))['jobs/:jobId/tape']!
  const cookie = cookieOf(shop.cookies.metric)
  const good = anEntry('note', { text: 'hello' })
  const deep = `${'['.repeat(100_000)}${']'.repeat(100_000)}`
  const old = JSON.parse(readFileSync('core/tape/old-tapes/v1.json', 'utf8')) as object[]
  const leaf = fc.oneof(
    fc.constantFrom<unknown>(...NASTY, null, true, -1, 0.5, 1e300, [], {}),
    fc.constant(nobody),
  )
  const spoilt = fc.tuple(fc.constantFrom(...old), fc.nat(12), leaf).map(([entry, at, value]) => {
    const copy = structuredClone(entry) as Record<string, unknown> & { body: Record<string, unknown> }
    const keys = [...Object.keys(copy), ...Object.keys(copy.body)]
    const key = keys[at % keys.length]!
    const into = Object.hasOwn(copy.body, key) ? copy.body : copy
    into[key] = value
    return JSON.stringify(copy)
  })
  const send = async (body: string) => {
    const response = await fetch(baseURL + path, {
      method: 'POST',
      headers: { cookie, 'sec-fetch-site': 'same-origin', 'content-type': 'application/json' },
      body,
    })
    return { status: response.status, text: await response.text() }
  }
  const batch = (...entries: string[]) =>
    `{"userId":"${shop.userId}","sentAt":${Date.now()},"entries":[${entries.join(',')}]}`
  for (const body of [
    '',
    '{',
    'null',
    '[]',
    '"x"',
    deep,
    `{"entries":${deep}}`,
    batch(deep),
    batch('{"body":' + deep + '}'),
  ])
    expect((await send(body)).status, body.slice(0, 60)).toBeLessThan(500)
  await fc.assert(
    fc.asyncProperty(fc.array(spoilt, { minLength: 1, maxLength: 4 }), async (entries) => {
      const { status, text } = await send(
        batch(...entries, JSON.stringify({ ...good, entryId: randomUUID() })),
      )
      expect(status, `${text.slice(0, 200)} ${entries.join()}`).toBe(200)
      // What is well-formed among them is taken all the same.
      expect(text).toContain('"text":"hello"')
    }),
    { numRuns: 150 },
  )
  // And the job can still be opened, reported and labelled by everybody.
  for (const page of [
    path.replace('/tape', ''),
    path.replace('tape', 'report'),
    path.replace('tape', 'label'),
  ])
    expect((await fetch(baseURL + page, { headers: { cookie } })).status, page).toBe(200)
})

function typeOf(kind: string): Record<string, string> {
  const type = {
    json: 'application/json',
    text: 'text/plain',
    multipart: 'multipart/form-data',
    broken: 'multipart/form-data; boundary=x',
    form: 'application/x-www-form-urlencoded',
  }[kind]
  return type ? { 'content-type': type } : {}
}

function bodyOf(kind: string, named: (readonly [string, string])[]): string {
  const text =
    kind === 'form'
      ? new URLSearchParams(named.map(([k, v]) => [k, v.toWellFormed()])).toString()
      : kind === 'json'
        ? JSON.stringify(Object.fromEntries(named))
        : `--x\r\n${named.map(([, v]) => v).join('%')}`
  return text.toWellFormed()
}
