import { randomUUID } from 'node:crypto'
import type { RouterContextProvider } from 'react-router'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import {
  addApiToken,
  addPerson,
  apiTokens,
  closeDatabase,
  findApiToken,
  freshToken,
  inShop,
  people,
  personOf,
  readShop,
  type Role,
} from '#db'
import { signedIn } from '~/base/session/signed-in.server'
import { answered, letIn, sendForm } from '../../../testing/a-request'
import { type AShop, aShop, NOW } from '../../../testing/a-shop'
import { action } from './settings'

let shop: AShop
let boss: RouterContextProvider
beforeAll(async () => {
  shop = await aShop()
  boss = await letIn(shop, 'manager')
})
afterAll(closeDatabase)

const send = (fields: Record<string, string>, context = boss) =>
  answered(action({ request: sendForm(fields), context, params: {} } as never))
const within = <T>(work: Parameters<typeof inShop<T>>[1]) => inShop(shop.shopId, work)

async function somebody(role: Role) {
  const userId = randomUUID()
  const name = `${role} ${userId.slice(0, 4)}`
  await within((tx) =>
    addPerson(tx, { userId, signIn: userId, name, role, passwordHash: 'x', preferences: {}, at: NOW }),
  )
  return (await within((tx) => personOf(tx, userId)))!
}

async function aToken(madeBy: string) {
  const token = freshToken()
  await within((tx) =>
    addApiToken(tx, token, { tokenId: randomUUID(), name: 'van', scopes: ['calc'], madeBy, at: NOW }),
  )
  return token
}

describe('a form that was opened before somebody else saved', () => {
  it('of the shop is refused with both values, and counts when it is sent again', async () => {
    const { version, ...opened } = await within(readShop)
    const fields = {
      ...opened,
      fillMarginPct: '0',
      sampleDays: '30',
      intent: 'shop',
      version: String(version),
    }
    expect((await send({ ...fields, heading: 'First' })).status).toBe(200)
    const { status, body } = await send({ ...fields, heading: 'Second' })
    expect(status).toBe(400)
    expect(body).toMatchObject({
      errors: { heading: expect.stringMatching(/There now: First\. Yours: Second\./) as string },
      typed: { heading: 'Second', version: String(version + 1) },
    })
    expect((await within(readShop)).heading).toBe('First')
    const { typed } = body as { typed: Record<string, string> }
    expect((await send(typed)).status).toBe(200)
    expect((await within(readShop)).heading).toBe('Second')
  })
  it('of the shop keeps what was typed where the days of samples make no sense', async () => {
    const { version, ...opened } = await within(readShop)
    const fields = { ...opened, fillMarginPct: '0', intent: 'shop', version: String(version) }
    for (const sampleDays of ['0', '3651', '1.5', 'ever', '']) {
      const { status, body } = await send({ ...fields, sampleDays })
      expect(status).toBe(400)
      expect(body).toMatchObject({
        errors: { sampleDays: 'Enter whole days, 1 to 3650.' },
        typed: { sampleDays },
      })
    }
    expect((await send({ ...fields, sampleDays: '365' })).status).toBe(200)
    expect((await within(readShop)).sampleDays).toBe(365)
    expect((await send({ ...fields, sampleDays: '30', version: String(version + 1) })).status).toBe(200)
  })
  it('that says the same is no quarrel', async () => {
    const { version, ...opened } = await within(readShop)
    const fields = {
      ...opened,
      fillMarginPct: '0',
      sampleDays: '30',
      intent: 'shop',
      version: String(version),
      heading: 'Same',
    }
    expect((await send(fields)).status).toBe(200)
    expect((await send(fields)).status).toBe(200)
  })
  it('of a person is refused in words', async () => {
    const person = await somebody('technician')
    const fields = {
      intent: 'change-person',
      userId: person.userId,
      version: String(person.version),
      access: 'open',
    }
    expect((await send({ ...fields, role: 'trainee' })).status).toBe(200)
    const { status, body } = await send({ ...fields, role: 'manager' })
    expect(status).toBe(400)
    expect(body).toMatchObject({
      errors: { role: expect.stringMatching(/There now: Trainee.*Yours: Manager/) as string },
    })
  })
  it('of one’s own units is refused, too', async () => {
    const me = signedIn(boss).person
    const units = {
      weight: 'kg',
      pressure: 'bar',
      vacuum: 'micron',
      temperature: 'C',
      length: 'm',
      oil: 'mL',
    }
    const fields = { ...units, intent: 'units', version: String(me.version) }
    expect((await send({ ...fields, theme: 'dark' })).status).toBe(200)
    const { body } = await send({ ...fields, theme: 'light' })
    expect(body).toMatchObject({ errors: { theme: expect.stringContaining('There now: dark') as string } })
  })
})

describe('tokens', () => {
  it('end with the person who holds them', async () => {
    const leaver = await somebody('manager')
    const token = await aToken(leaver.userId)
    expect(await findApiToken(token, NOW)).toBeDefined()
    const { body } = await send({
      intent: 'change-person',
      userId: leaver.userId,
      version: String(leaver.version),
      role: 'manager',
      access: 'disabled',
    })
    expect(body).toMatchObject({ done: 'Saved. Their token ended with it.' })
    expect(await findApiToken(token, NOW)).toBeUndefined()
    expect((await within(apiTokens)).find((t) => t.heldBy === leaver.userId)!.revokedAt).not.toBeNull()
  })
  it('pass to another manager by name, and go on', async () => {
    const [leaver, heir] = [await somebody('manager'), await somebody('manager')]
    const token = await aToken(leaver.userId)
    const fields = {
      intent: 'change-person',
      userId: leaver.userId,
      version: String(leaver.version),
      role: 'technician',
      access: 'open',
    }
    const nobody = await somebody('technician')
    for (const tokensTo of [nobody.userId, leaver.userId, randomUUID()])
      expect((await send({ ...fields, tokensTo })).body).toMatchObject({
        errors: { tokensTo: 'Choose another manager from the list.' },
      })
    expect((await send({ ...fields, tokensTo: heir.userId })).body).toMatchObject({
      done: `Saved. Their token passed to ${heir.name}.`,
    })
    expect(await findApiToken(token, NOW)).toBeDefined()
    expect((await within(apiTokens)).find((t) => t.heldBy === heir.userId)!.holder).toBe(heir.name)
  })
})

it('a name that two managers give at once belongs to one person', async () => {
  const fields = { intent: 'add-person', name: 'Nia', signIn: `nia-${randomUUID()}`, role: 'technician' }
  const answers = await Promise.all([1, 2, 3].map(() => send({ ...fields, newPassword: 'long enough now' })))
  expect(answers.map((a) => a.status).sort()).toEqual([200, 400, 400])
  expect((await within(people)).filter((p) => p.signIn === fields.signIn)).toHaveLength(1)
})
