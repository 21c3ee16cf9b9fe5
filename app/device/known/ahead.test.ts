// What a device makes of what waits on it is what the server makes of it when it arrives.
import { randomUUID } from 'node:crypto'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Entry } from '#core/tape'
import {
  addKit,
  append,
  closeDatabase,
  dyedBefore,
  inShop,
  lastCharged,
  systemBefore,
  openJob,
  openSession,
} from '#db'
import { through } from '../../../testing/a-request'
import { aCylinder, aJob, anEntry, type AShop, aShop, aSystem, note, NOW } from '../../../testing/a-shop'
import { signedIn } from '~/base/session/signed-in.server'
import { Device, type Unsent } from './device'
import { refusedHere } from './judge'
import { knownBefore, plateFound } from './systems'
import { asText, fromText, packIn } from '../pack/pack'
import { readPack } from '../pack/pack.server'

let shop: AShop
beforeAll(async () => {
  shop = await aShop()
})
afterAll(closeDatabase)

async function pack() {
  const context = await through(await openSession(shop.shopId, shop.userId), '/')
  return packIn(fromText(asText(await readPack(signedIn(context), 'http://keg.test'))))!
}
const device = async (unsent: Unsent[] = []) => new Device({ pack: await pack(), learned: {} }, unsent)

/** As they arrive once there is signal. */
async function arrive(unsent: readonly Unsent[]) {
  const now = new Date()
  for (const jobId of new Set(unsent.map((each) => each.jobId)))
    await inShop(shop.shopId, async (tx) => {
      await openJob(tx, jobId, shop.userId, now)
      const entries = unsent.filter((each) => each.jobId === jobId).map(({ entry }) => entry)
      await append(tx, {
        jobId,
        userId: shop.userId,
        entries,
        sentAt: now.getTime(),
        offsetMs: 0,
        now,
        today: '2026-06-01',
      })
    })
}

const of = (jobId: string, entries: Entry[]): Unsent[] => entries.map((entry) => ({ jobId, entry }))
const run = (
  use: 'recover' | 'charge',
  cylinderId: string,
  fromMg: number,
  toMg: number,
  bookedMg: number,
) => {
  const runId = randomUUID()
  return [
    anEntry('run-started', { runId, use, cylinderId, scale: '', mode: 'gross', weightMg: fromMg, bookedMg }),
    anEntry('run-ended', { runId, weightMg: toMg, hoseMg: use === 'charge' ? 40_000 : 0 }),
  ]
}

/** What both know of cylinders, systems and jobs in hand. */
function known(here: Device) {
  return {
    cylinders: here.cylinders
      .map(({ cylinderId, balanceMg, refrigerant, condition, offMg, reservedMg }) => ({
        cylinderId,
        balanceMg,
        refrigerant,
        condition,
        offMg,
        reservedMg,
      }))
      .sort((a, b) => (a.cylinderId < b.cylinderId ? -1 : 1)),
    kit: here.kit
      .map(({ kitId, balanceMg, lastGas, gasAt, purgedAt, passedMg }) => ({
        kitId,
        balanceMg,
        lastGas,
        gasAt,
        purgedAt,
        passedMg,
      }))
      .sort((a, b) => (a.kitId < b.kitId ? -1 : 1)),
    systems: here.systems
      .map(({ systemId, balanceMg, refrigerant, plateMg, plateText, panelTotalMg, oilType, drive }) => ({
        systemId,
        balanceMg,
        refrigerant,
        plateMg,
        plateText,
        panelTotalMg,
        oilType,
        drive,
      }))
      .sort((a, b) => (a.systemId < b.systemId ? -1 : 1)),
    jobs: here
      .inHand()
      .map(({ jobId, status, stage, next, recoveredMg, chargedMg, title, system }) => ({
        jobId,
        status,
        stage,
        next,
        recoveredMg,
        chargedMg,
        title,
        system,
      }))
      .sort((a, b) => (a.jobId < b.jobId ? -1 : 1)),
  }
}

describe('what waits on a device', () => {
  it('makes of cylinders, systems and jobs what the server makes of it', async () => {
    const [tern, gull, virgin, plant] = [
      await aCylinder(shop, { refrigerant: null, condition: 'clean' }),
      await aCylinder(shop),
      await aCylinder(shop, { kind: 'virgin', condition: 'clean' }),
      await aSystem(shop),
    ]
    const [begun, fresh, roof] = [await aJob(shop), randomUUID(), randomUUID()]
    // One that the server knows the beginning of.
    await note(
      shop,
      begun,
      anEntry('job-described', { systemId: plant, refrigerant: 'R-410A', title: 'Retarder' }),
      ...run('charge', virgin, 22e6, 19e6, 12e6),
    )
    const unsent = [
      ...of(begun, run('recover', gull, 12e6, 14_300_000, 12e6)),
      ...of(fresh, [
        anEntry('job-described', { systemId: plant, refrigerant: 'R-410A', title: 'Again' }),
        anEntry('cylinder-chosen', { cylinderId: tern, use: 'recover', massMg: 2e6 }),
        ...run('recover', tern, 12_300_000, 12_900_000, 12e6),
      ]),
      ...of(roof, [
        anEntry('job-described', { refrigerant: 'R-134a', title: 'On the roof' }),
        ...run('recover', gull, 14_300_000, 14_800_000, 14_300_000),
        anEntry('job-closed', {} as never),
      ]),
    ]
    const here = known(await device(unsent))
    await arrive(unsent)
    const there = known(await device())
    expect(here).toEqual(there)
    expect(here.cylinders.find((each) => each.cylinderId === gull)).toMatchObject({
      balanceMg: 2_800_000,
      condition: 'mixed',
    })
    expect(here.cylinders.find((each) => each.cylinderId === tern)).toMatchObject({
      balanceMg: 600_000,
      offMg: 300_000,
      reservedMg: 1_400_000,
    })
  })
  it('makes of machines and hoses what the server makes of it', async () => {
    const [machine, other, hoses] = [randomUUID(), randomUUID(), randomUUID()]
    const kinds = { [machine]: 'machine', [other]: 'machine', [hoses]: 'hoses' } as const
    const uses = (kitId: string) =>
      anEntry('kit-used', { kitId, kind: kinds[kitId]!, label: kitId.slice(0, 6), facts: {} })
    await inShop(shop.shopId, async (tx) => {
      for (const [kitId, kind] of Object.entries(kinds)) {
        const row = { kind, label: kitId.slice(0, 6), keepsAt: '', facts: {}, state: 'in-use' as const }
        await addKit(tx, kitId, row, NOW)
      }
    })
    const [tern, gull, virgin, plant] = [
      await aCylinder(shop, { refrigerant: null, condition: 'clean' }),
      await aCylinder(shop, { refrigerant: null, condition: 'clean' }),
      await aCylinder(shop, { kind: 'virgin', condition: 'clean' }),
      await aSystem(shop),
    ]
    const begun = await aJob(shop)
    await note(
      shop,
      begun,
      anEntry('job-described', { systemId: plant, refrigerant: 'R-410A' }),
      uses(machine),
      ...run('recover', tern, 12e6, 13e6, 12e6),
      anEntry('step-done', { step: 'self-purged' }),
    )
    const unsent = [
      // It kept some after all; and then it pulled another gas on a roof.
      ...of(begun, [
        anEntry('rig-kept', { kitId: machine, massMg: 120_000 }),
        uses(hoses),
        ...run('charge', virgin, 22e6, 20e6, 12e6),
      ]),
      ...of(randomUUID(), [
        anEntry('job-described', { refrigerant: 'R-134a' }),
        uses(machine),
        ...run('recover', gull, 12e6, 12_700_000, 12e6),
        uses(other),
        ...run('recover', gull, 12_700_000, 13e6, 12_700_000),
        anEntry('step-done', { step: 'self-purged' }),
      ]),
    ]
    const here = known(await device(unsent)).kit
    await arrive(unsent)
    expect(here).toEqual(known(await device()).kit)
    expect(here.find(({ kitId }) => kitId === machine)).toMatchObject({
      lastGas: 'R-134a',
      purgedAt: null,
      passedMg: 1_700_000,
      balanceMg: 120_000,
    })
    expect(here.find(({ kitId }) => kitId === hoses)).toMatchObject({ balanceMg: 40_000 })
  })
  it('makes of the data of systems what the server makes of it', async () => {
    const [cold, found, half, mistaken] = [
      await aSystem(shop, { refrigerant: 'R-404A', plateMg: 10e6, plateText: '10 kg', oilType: 'mineral' }),
      await aSystem(shop, { refrigerant: 'R-404A', plateMg: null }),
      await aSystem(shop, { refrigerant: 'R-404A', plateMg: 8e6, plateText: '8 kg' }),
      await aSystem(shop, { refrigerant: 'R-404A', plateMg: 6e6, plateText: '6 kg' }),
    ]
    const fresh = () => aCylinder(shop, { kind: 'virgin', condition: 'clean', refrigerant: 'R-448A' })
    const change = () => anEntry('gas-changed', { to: 'R-448A', oilType: 'POE 32', reason: '' })
    const emptied = () => anEntry('recovery-ended', { how: 'elsewhere' })
    const of404 = (systemId: string) => anEntry('job-described', { systemId, refrigerant: 'R-404A' })
    const [online, struck] = [await aJob(shop), await aJob(shop)]
    await note(shop, online, of404(half), emptied(), change())
    const begun = [of404(mistaken), emptied(), change()]
    const wrong = begun.at(-1)!
    await note(shop, struck, ...begun)
    const [retrofit, reads] = [randomUUID(), randomUUID()]
    const mistake = { entryId: wrong.entryId, kind: 'gas-changed', body: null, reason: 'another system' }
    const unsent = [
      ...of(retrofit, [of404(cold), emptied(), change(), ...run('charge', await fresh(), 22e6, 13e6, 22e6)]),
      ...of(reads, [
        of404(found),
        anEntry('plate-noted', { massMg: 4_200_000, text: '4.2 kg' }),
        anEntry('drive-noted', { drive: 'high-voltage' }),
      ]),
      ...of(online, run('charge', await fresh(), 22e6, 15e6, 22e6)),
      ...of(struck, [anEntry('correction', mistake as never)]),
    ]
    const roof = await device(unsent)
    const before = plateFound(roof.pack, roof.aheadBeside(retrofit), roof.job(retrofit)!)
    const here = known(roof)
    await arrive(unsent)
    const there = await device()
    expect(here.systems).toEqual(known(there).systems)
    // Charged 9 kg less the 40 g that the hoses kept.
    const gas = { refrigerant: 'R-448A', oilType: 'POE 32', plateMg: null, panelTotalMg: 8_960_000 }
    expect(roof.system(cold)).toMatchObject(gas)
    expect(roof.system(half)).toMatchObject({ refrigerant: 'R-448A', panelTotalMg: 6_960_000 })
    expect(roof.system(found)).toMatchObject({ plateMg: 4_200_000, drive: 'high-voltage' })
    expect(roof.system(mistaken)).toMatchObject({ refrigerant: 'R-404A', plateMg: 6e6, plateText: '6 kg' })
    // The job that changed the gas is judged by the plate that it found, on both sides.
    expect(before).toEqual(there.job(retrofit)!.packed!.beside.plateWas)
    expect(before).toMatchObject({ fromGas: 'R-404A', wasPlateMg: 10e6 })
  })
  it('knows of an earlier job here what is in a system, as the server does', async () => {
    const [plant, tern, virgin] = [
      await aSystem(shop, { refrigerant: 'R-410A', plateMg: 3e6 }),
      await aCylinder(shop, { refrigerant: null, condition: 'clean' }),
      await aCylinder(shop, { kind: 'virgin', condition: 'clean' }),
    ]
    const [first, second] = [randomUUID(), randomUUID()]
    const described = () => anEntry('job-described', { systemId: plant, refrigerant: 'R-410A' })
    const unsent = [
      ...of(first, [
        described(),
        ...run('recover', tern, 12e6, 14_900_000, 12e6),
        anEntry('recovery-ended', { how: 'emptied' }),
        ...run('charge', virgin, 22e6, 19e6, 22e6),
        anEntry('dye-noted', { volumeMl: 5, text: '' }),
        anEntry('job-closed', {} as never),
      ]),
      ...of(second, [described(), ...run('recover', tern, 14_900_000, 16_900_000, 14_900_000)]),
    ]
    const here = await device(unsent)
    const job = here.job(second)!
    const before = knownBefore(here.pack, here.aheadBeside(second), job)
    await arrive(unsent)
    const opened = new Date(job.state.openedAt)
    const there = await inShop(shop.shopId, async (tx) => ({
      books: await systemBefore(tx, plant, second, opened),
      chargedAt: (await lastCharged(tx, plant, second, opened))!.getTime(),
      dyedAt: (await dyedBefore(tx, plant, second))!.getTime(),
    }))
    // 3 kg left the cylinder, 40 g of them stayed in the hoses. What this job takes out does not count.
    expect(there.books).toEqual({ massMg: 2_960_000, whole: true })
    expect(before).toEqual({
      whole: true,
      balanceMg: 2_960_000,
      chargedAt: there.chargedAt,
      dyedAt: there.dyedAt,
    })
  })
  it('holds a machine back that pulled another gas here a moment ago', async () => {
    const machine = randomUUID()
    const row = { kind: 'machine', label: 'Roof machine', keepsAt: '', facts: {}, state: 'in-use' } as const
    await inShop(shop.shopId, (tx) => addKit(tx, machine, row, NOW))
    const tern = await aCylinder(shop, { refrigerant: null, condition: 'clean' })
    const used = () => anEntry('kit-used', { ...row, kitId: machine } as never)
    const roof = of(randomUUID(), [
      anEntry('job-described', { refrigerant: 'R-404A' }),
      used(),
      ...run('recover', tern, 12e6, 13e6, 12e6),
    ])
    const next = [anEntry('job-described', { refrigerant: 'R-410A' }), used()]
    expect(refusedHere(await device(), next, Date.now())).toEqual([])
    expect(refusedHere(await device(roof), next, Date.now())).toMatchObject([{ code: 'holds-another-gas' }])
  })
  it('and what the server has confirmed since is not counted twice, before the pack is fetched anew', async () => {
    const tern = await aCylinder(shop, { refrigerant: null })
    const jobId = randomUUID()
    const entries = [
      anEntry('job-described', { refrigerant: 'R-410A' }),
      ...run('recover', tern, 12e6, 13e6, 12e6),
    ]
    const before = await pack()
    const waiting = new Device({ pack: before, learned: {} }, of(jobId, entries))
    const learned = new Device({ pack: before, learned: { [jobId]: entries } }, [])
    const both = new Device({ pack: before, learned: { [jobId]: entries } }, of(jobId, entries))
    for (const each of [waiting, learned, both]) expect(each.cylinder(tern)!.balanceMg).toBe(1e6)
    expect(waiting.job(jobId)).toMatchObject({ number: null, state: { recoveredMg: 1e6 } })
    expect(waiting.job(randomUUID())).toBeUndefined()
  })
})
