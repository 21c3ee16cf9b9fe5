// Live instruments: paired, heard on the job's page, noted with one key, silent, revoked; and two servers on one database.
import { randomUUID } from 'node:crypto'
import { gzipSync } from 'node:zlib'
import type { Page } from '@playwright/test'
import { METRIC_UNITS } from '#core/units'
import { addKit, addPairingCode, freshPairingCode, inShop, openSession, tapeOf } from '#db'
import { cookieOf } from '../testing/a-session'
import { aServer } from '../testing/a-server'
import { aCylinder, aJob, anEntry, type AShop, aShop, note } from '../testing/a-shop'
import { expect, expectNoTrouble, open, test } from './shop'
import { aTalker } from './talker'

async function aJobWith(shop: AShop, kit: { scaleId: string; gaugeId: string }) {
  const [jobId, cylinderId] = await Promise.all([
    aJob(shop),
    aCylinder(shop, { label: `L-${randomUUID().slice(0, 6)}` }),
  ])
  await note(
    shop,
    jobId,
    anEntry('job-described', { refrigerant: 'R-410A' }),
    anEntry('kit-used', { kitId: kit.scaleId, kind: 'scale', label: 'Quay scale', facts: {} }),
    anEntry('kit-used', { kitId: kit.gaugeId, kind: 'gauge', label: 'Quay gauges', facts: {} }),
    anEntry('cylinder-chosen', { cylinderId, use: 'recover', massMg: null }),
  )
  return { jobId, cylinderId }
}

const entries = (shop: AShop, jobId: string) => inShop(shop.shopId, (tx) => tapeOf(tx, jobId))
const tile = (page: Page, name: string) => page.locator('.live-tile', { hasText: name })

test('a run that is read off its scale: taken, noted and ended with one key each, and the tape names the samples', async ({
  alone,
  baseURL,
}) => {
  const { page, shop } = await alone()
  const talker = await aTalker(shop)
  const { jobId } = await aJobWith(shop, talker)
  let kg = 12
  const stop = talker.keepSaying(baseURL!, () => kg)
  const stopLow = talker.keepSaying(baseURL!, () => 250_000, 'low')
  try {
    await open(page, `/jobs/${jobId}`)
    await expect(tile(page, 'Quay scale, weight')).toContainText('12.000 kg')
    await expect(tile(page, 'Quay gauges, low side')).toContainText('2.50 bar g')
    await page
      .getByRole('button', { name: /^Recover/ })
      .first()
      .click()
    await expect(page.getByLabel('Scale', { exact: true })).toHaveValue(talker.scaleId)
    await page.getByRole('button', { name: /Take 12\.000 kg from the scale/ }).click()
    await expect(page.getByLabel('Start weight')).toHaveValue('12.000 kg')
    await page.getByRole('button', { name: 'Start recovery' }).click()
    await expect(page.locator('.hero').first()).toHaveText('0 g')

    // What it shows now counts in sight before anybody notes it.
    kg = 13.205
    await expect(page.locator('.hero').first()).toHaveText('1.205 kg')
    await expect(tile(page, 'Quay scale, weight')).toContainText('1.205 kg in, this pull')
    expect((await entries(shop, jobId)).filter((entry) => entry.kind === 'weight-noted')).toHaveLength(0)
    await page.getByRole('button', { name: 'Note 13.205 kg, live' }).click()
    await page.getByRole('button', { name: 'Note Quay gauges, low side' }).click()
    await expect(tile(page, 'Quay gauges, low side')).toContainText('noted 2.50 bar g')
    kg = 14.1
    await page.getByRole('button', { name: 'Finish …' }).click()
    await page.getByRole('button', { name: 'End with 14.100 kg, live' }).click()
    await expect(page.locator('.hero').first()).toHaveText('2.100 kg')
    await expect
      .poll(async () =>
        (await entries(shop, jobId))
          .filter((entry) => entry.sample)
          .map((entry) => [entry.kind, entry.sample!.channel]),
      )
      .toEqual([
        ['run-started', 'weight'],
        ['weight-noted', 'weight'],
        ['pressure-noted', 'low'],
        // What the gauge read at the stop, beside the last weight.
        ['pressure-noted', 'low'],
        ['run-ended', 'weight'],
      ])
    expect((await entries(shop, jobId)).find((entry) => entry.sample)!.sample!.deviceId).toBe(talker.deviceId)
    // The strip has drawn it.
    await expect(page.locator('.strip-chart canvas')).toBeVisible()
  } finally {
    stop()
    stopLow()
  }
  expectNoTrouble(page)
})

test('from the roof: the weight of the live scale is taken into the quick start, and the tape names its sample', async ({
  alone,
  baseURL,
}) => {
  const { page, shop } = await alone()
  const talker = await aTalker(shop)
  await aCylinder(shop, { label: 'Roof 9' })
  const stop = talker.keepSaying(baseURL!, () => 12)
  try {
    await open(page, '/jobs/new')
    await page.locator('.tile', { hasText: 'Roof 9' }).click()
    await page.getByLabel('Scale', { exact: true }).selectOption(talker.scaleId)
    await page.getByRole('button', { name: /Take 12\.000 kg from the scale/ }).click()
    await expect(page.getByLabel('Start weight')).toHaveValue('12.000 kg')
    await page.getByRole('button', { name: 'Go', exact: true }).click()
    await page.waitForURL(/\/jobs\/[0-9a-f-]{36}$/)
    const jobId = page.url().split('/').at(-1)!
    const started = (await entries(shop, jobId)).find((entry) => entry.kind === 'run-started')
    expect(started).toMatchObject({
      body: { weightMg: 12_000_000, scaleId: talker.scaleId },
      sample: { deviceId: talker.deviceId, channel: 'weight' },
    })
  } finally {
    stop()
  }
  expectNoTrouble(page)
})

test('a running pull is watched in words: it comes, it stands with pressure up, typed beside it the gauge is down', async ({
  alone,
  baseURL,
}) => {
  const { page, shop } = await alone()
  const talker = await aTalker(shop)
  const { jobId, cylinderId } = await aJobWith(shop, talker)
  const began = Date.now() - 300_000
  await note(
    shop,
    jobId,
    anEntry(
      'run-started',
      {
        runId: randomUUID(),
        use: 'recover',
        cylinderId,
        scale: 'Quay scale',
        scaleId: talker.scaleId,
        mode: 'gross',
        weightMg: 12e6,
      },
      { at: began, backdated: true },
    ),
  )
  // Two minutes of half a kilogram each, then two minutes of nothing, the gauge at 4 bar.
  for (let agoS = 240; agoS > 0; agoS -= 2)
    await talker.say(baseURL!, [
      { value: agoS > 120 ? 12 + (240 - agoS) / 120 : 13, agoMs: agoS * 1_000 },
      { channel: 'low', value: 400_000, agoMs: agoS * 1_000 },
    ])
  const stop = talker.keepSaying(baseURL!, () => 13)
  const stopLow = talker.keepSaying(baseURL!, () => 400_000, 'low')
  try {
    await open(page, `/jobs/${jobId}`)
    const line = page.locator('.pull-state')
    await expect(line).toContainText('Stuck: the weight stands, and the pressure does not fall')
    await expect(line).toContainText('4.00 bar g, for')
    stopLow()
    // Nobody believes a gauge that has gone silent: after three minutes it counts no more; typed it does at once.
    await page.getByRole('button', { name: /^Low side/ }).click()
    await page.locator('#face-figure').fill('0 bar')
    await page.locator('#face-figure').press('Enter')
    await expect(page.locator('.face-readings')).toContainText('0.00 bar g')
  } finally {
    stop()
    stopLow()
  }
  expectNoTrouble(page)
})

test('an instrument that disappears, or jumps about, is said so within five seconds; typing goes on, and the sum is right', async ({
  alone,
  baseURL,
}) => {
  const { page, shop } = await alone()
  const talker = await aTalker(shop)
  const { jobId, cylinderId } = await aJobWith(shop, talker)
  await note(
    shop,
    jobId,
    anEntry('run-started', {
      runId: randomUUID(),
      use: 'recover',
      cylinderId,
      scale: 'Quay scale',
      scaleId: talker.scaleId,
      mode: 'gross',
      weightMg: 12e6,
    }),
  )
  await open(page, `/jobs/${jobId}`)
  const stop = talker.keepSaying(baseURL!, () => 13)
  await expect(page.getByRole('button', { name: 'Note 13.000 kg, live' })).toBeVisible()
  await page.getByRole('button', { name: 'Note 13.000 kg, live' }).click()
  await expect(page.locator('.hero').first()).toHaveText('1.000 kg')
  stop()
  await expect(
    page.getByText(/Quay scale is silent since \d\d:\d\d:\d\d: type what it shows\./),
  ).toBeVisible()
  await page.getByLabel('The scale shows').fill('13.5 kg')
  await page.getByRole('button', { name: 'Note weight' }).click()
  await expect(page.locator('.hero').first()).toHaveText('1.500 kg')

  // Lifted off its scale it shows next to nothing: that is asked about, and not noted by one key.
  const lifted = talker.keepSaying(baseURL!, () => 0.02)
  await page.getByRole('button', { name: 'Note 20 g, live' }).click()
  await expect(page.getByLabel('The scale shows')).not.toHaveValue('')
  await expect(page.getByRole('button', { name: 'Note Quay scale, weight' })).toHaveCount(0)
  lifted()
  await page.getByLabel('The scale shows').fill('')

  let wild = 0
  const jumps = talker.keepSaying(baseURL!, () => [13.5, 19, 4, 22, 9][wild++ % 5]!)
  await expect(page.getByText('Quay scale jumps about: look at it, and type what it shows.')).toBeVisible()
  jumps()
  // Nothing of that has reached the books.
  await expect(page.getByRole('button', { name: /live$/ })).toHaveCount(0)
  expect((await entries(shop, jobId)).filter((entry) => entry.kind === 'weight-noted')).toHaveLength(2)
  expectNoTrouble(page)
})

test('a code is made once, a gateway trades it; its channel is moved, it is renamed, what it sent wrong is told, it is revoked', async ({
  alone,
  baseURL,
}) => {
  const { page, shop } = await alone()
  const kitId = randomUUID()
  await inShop(shop.shopId, (tx) =>
    addKit(
      tx,
      kitId,
      { kind: 'scale', label: 'Slip scale', keepsAt: 'Van 1', facts: { capacityMg: 100e6 }, state: 'in-use' },
      new Date(),
    ),
  )
  await open(page, '/kit')
  await page.getByRole('link', { name: 'Live instruments' }).click()
  await expect(page.getByText('No device yet.')).toBeVisible()
  await page.getByRole('button', { name: 'Make a pairing code' }).click()
  const code = await page.locator('.pairing-code').innerText()
  const pair = () =>
    fetch(`${baseURL}/api/v1/pairings`, {
      method: 'POST',
      body: JSON.stringify({ code, name: 'Old box', channels: ['weight', 'low'] }),
    })
  const { token } = (await (await pair()).json()) as { token: string }
  expect((await pair()).status).toBe(403)
  const device = page.getByRole('region', { name: 'Old box' })
  await expect(device).toContainText('not heard yet')
  await device.getByLabel('Old box, weight belongs to').selectOption({ label: 'Slip scale, Van 1' })
  await device.locator('li', { hasText: 'weight' }).getByRole('button', { name: 'Move' }).click()
  await expect(page.getByText('Moved. What it said before stays where it was.')).toBeVisible()

  const send = (value: unknown) =>
    fetch(`${baseURL}/api/v1/samples`, {
      method: 'POST',
      headers: { authorization: `Bearer ${token}` },
      body: JSON.stringify({ samples: [{ channel: 'weight', seq: 1, at: Date.now(), value }] }),
    })
  expect((await send(130)).status).toBe(422)
  expect((await send(12)).status).toBe(200)
  await page.reload()
  await expect(device).toContainText('1 sample was not taken')
  await expect(device).toContainText('No instrument of this kind, or not this one, can show that')
  await device.locator('summary').click()
  await device.getByLabel('Name').fill('Van 1 box')
  await device.getByRole('button', { name: 'Rename' }).click()
  await expect(page.getByText('It is called Van 1 box now.')).toBeVisible()
  const renamed = page.getByRole('region', { name: 'Van 1 box' })
  await renamed.getByRole('button', { name: /^Revoke/ }).click()
  await expect(page.getByText('It is not let in any more. What it has sent stays.')).toBeVisible()
  expect((await send(12)).status).toBe(401)
  expectNoTrouble(page)
})

test('at the door of samples: sent, not fetched; packed or in pieces; what cannot be read is a problem in words', async ({
  baseURL,
}) => {
  const shop = await aShop()
  const talker = await aTalker(shop)
  const headers = { authorization: `Bearer ${talker.token}` }
  const batch = (seq: number) =>
    JSON.stringify({ samples: [{ channel: 'weight', seq, at: Date.now(), value: 12 }] })
  const send = async (init: RequestInit) => {
    const response = await fetch(`${baseURL}/api/v1/samples`, { method: 'POST', headers, ...init })
    const body = (await response.json()) as object
    return { status: response.status, media: response.headers.get('content-type')?.split(';')[0], body }
  }
  for (const method of ['GET', 'PUT', 'DELETE'])
    expect(await send({ method })).toMatchObject({ status: 405, media: 'application/problem+json' })
  const packed = { ...headers, 'content-encoding': 'gzip' }
  expect(await send({ body: gzipSync(batch(1)), headers: packed })).toMatchObject({
    status: 200,
    body: { accepted: 1 },
  })
  expect(await send({ body: batch(2), headers: packed })).toMatchObject({
    status: 400,
    body: { title: 'The body could not be read' },
  })
  expect(await send({ body: batch(2), headers: { ...headers, 'content-encoding': 'zip' } })).toMatchObject({
    status: 415,
    media: 'application/problem+json',
  })
  // A small parcel that unpacks to a hundred times what is taken at once.
  expect(await send({ body: gzipSync(' '.repeat(200e6)), headers: packed })).toMatchObject({ status: 413 })
  expect(await send({ body: '' })).toMatchObject({ status: 422, body: { title: 'This is no batch' } })
  expect(await send({ body: `${'['.repeat(100_000)}` })).toMatchObject({ status: 422 })
  expect(await send({ body: batch(3) })).toMatchObject({ status: 200, body: { accepted: 1 } })
})

test('two servers on one database: what is posted to one arrives at whoever listens at the other', async ({
  baseURL,
}) => {
  const shop = await aShop('no password', undefined, { units: METRIC_UNITS })
  const talker = await aTalker(shop)
  const cookie = cookieOf(await openSession(shop.shopId, shop.userId))
  const other = await aServer(process.env.KEG_DATABASE_URL!)
  const listening = new AbortController()
  const heard: Record<string, number[]> = { one: [], other: [] }
  const listen = async (name: string, origin: string) => {
    const response = await fetch(`${origin}/events?devices=${talker.deviceId}`, {
      headers: { cookie },
      signal: listening.signal,
    })
    let text = ''
    for await (const part of response.body!.pipeThrough(
      new TextDecoderStream() as never,
    ) as unknown as AsyncIterable<string>) {
      text += part
      for (let end = text.indexOf('\n\n'); end >= 0; end = text.indexOf('\n\n')) {
        const data = /^data: (.*)$/m.exec(text.slice(0, end))?.[1]
        text = text.slice(end + 2)
        const told = data
          ? (JSON.parse(data) as { kind: string; samples?: [string, number, number, number][] })
          : undefined
        if (told?.kind === 'samples') heard[name]!.push(...told.samples!.map(([, , , seq]) => seq))
      }
    }
  }
  const ears = [listen('one', baseURL!), listen('other', other.origin)].map((ear) => ear.catch(() => {}))
  try {
    await expect
      .poll(async () => {
        await talker.say(baseURL!, [{ value: 12 }])
        return heard.one!.length > 0 && heard.other!.length > 0
      })
      .toBe(true)
    for (let i = 0; i < 10; i++)
      expect(await talker.say(i % 2 ? baseURL! : other.origin, [{ value: 12 + i }])).toBe(200)
    const last = (list: number[]) => [...new Set(list)].sort((a, b) => a - b).slice(-10)
    const both = () => [last(heard.one!), last(heard.other!)]
    const wanted = Array.from({ length: 10 }, (_, i) => talker.said() - 10 + i)
    await expect.poll(both).toEqual([wanted, wanted])
  } finally {
    listening.abort()
    await Promise.all(ears)
    await other.stop()
  }
})

test('a device is let in by a pairing code only, and its shop is its own', async ({ alone, baseURL }) => {
  const { shop } = await alone()
  const code = freshPairingCode()
  await inShop(shop.shopId, (tx) => addPairingCode(tx, code, shop.userId, new Date()))
  const stranger = await aShop()
  const talker = await aTalker(stranger)
  // Somebody signed in elsewhere asks for its samples: nothing of them is sent.
  const cookie = cookieOf(await openSession(shop.shopId, shop.userId))
  const listening = new AbortController()
  const response = await fetch(`${baseURL}/events?devices=${talker.deviceId}`, {
    headers: { cookie },
    signal: listening.signal,
  })
  expect(await talker.say(baseURL!, [{ value: 12 }])).toBe(200)
  const reader = response.body!.getReader()
  const first = new TextDecoder().decode((await reader.read()).value)
  expect(first).toMatch(/^retry: 3000\n\ndata: \{"kind":"program","id":"\w+"\}\n\n$/)
  const more = await Promise.race([
    reader.read().then(() => 'something'),
    new Promise((resolve) => setTimeout(() => resolve('nothing'), 1_500)),
  ])
  expect(more).toBe('nothing')
  listening.abort()
})
