// Kit in a shop: what is due, what a failed scale has weighed, what a machine holds and has passed.
import { randomUUID } from 'node:crypto'
import { afterAll, describe, expect, it } from 'vitest'
import type { KitFacts, KitKind } from '#core/kit'
import {
  actsOf,
  addKit,
  bookPurge,
  closeDatabase,
  cylinderOf,
  type DoubtfulTransfer,
  doubtsOfJob,
  doubtsOfScale,
  dueKit,
  inShop,
  kitAtPlace,
  KitLabelTakenError,
  kitPlaces,
  lockedKit,
  movements,
  onePiece,
  strikeAct,
  VoucherError,
  writeAct,
} from '#db'
import { aCylinder, aJob, anEntry, aShop, type AShop, aSystem, note, NOW } from '../../testing/a-shop'

afterAll(closeDatabase)

const DAY = 86_400_000
const at = (days: number) => new Date(NOW.getTime() + days * DAY)

async function aPiece(shop: AShop, kind: KitKind, facts: KitFacts = {}, keepsAt = 'Van 1') {
  const kitId = randomUUID()
  const label = `${kind} ${kitId.slice(0, 6)}`
  await inShop(shop.shopId, (tx) => addKit(tx, kitId, { kind, label, facts, keepsAt, state: 'in-use' }, NOW))
  return { kitId, kind, label, facts }
}

const act = (
  shop: AShop,
  kitId: string,
  what: Parameters<typeof writeAct>[1]['what'],
  when: Date,
  over: Partial<Parameters<typeof writeAct>[1]> = {},
) =>
  inShop(shop.shopId, async (tx) => {
    await lockedKit(tx, kitId)
    return writeAct(tx, {
      actId: randomUUID(),
      kitId,
      what,
      at: when,
      now: when,
      userId: shop.userId,
      passed: null,
      body: {},
      ...over,
    })
  })

const checked = (shop: AShop, kitId: string, when: Date, passed: boolean) =>
  act(shop, kitId, 'scale-check', when, {
    passed,
    body: { known: 10_000_000, read: passed ? 10_000_000 : 10_060_000 },
  })

/** A recovery of so much on a scale, with a machine where one is given; ended on that day. */
async function recovered(
  shop: AShop,
  days: number,
  {
    scale,
    machine,
    massMg = 1_000_000,
    steps = [],
    keptMg,
    refrigerant = 'R-410A',
  }: {
    scale?: { kitId: string; label: string }
    machine?: { kitId: string; kind: KitKind; label: string; facts: KitFacts }
    massMg?: number
    steps?: string[]
    keptMg?: number
    refrigerant?: string
  },
) {
  const jobId = await aJob(shop)
  const cylinderId = await aCylinder(shop, { refrigerant })
  const systemId = await aSystem(shop, { refrigerant })
  const runId = randomUUID()
  let minute = 0
  const when = () => ({ at: at(days).getTime() + minute++ * 60_000, backdated: true })
  await note(
    shop,
    jobId,
    anEntry('job-described', { systemId, refrigerant }, when()),
    ...(machine ? [anEntry('kit-used', machine, when())] : []),
    anEntry(
      'run-started',
      {
        runId,
        use: 'recover',
        cylinderId,
        scale: scale?.label ?? '',
        ...(scale && { scaleId: scale.kitId }),
        mode: 'gross',
        weightMg: 10_000_000,
      },
      when(),
    ),
    anEntry('run-ended', { runId, weightMg: 10_000_000 + massMg }, when()),
    ...steps.map((step) => anEntry('step-done', { step }, when())),
    ...(keptMg && machine ? [anEntry('rig-kept', { kitId: machine.kitId, massMg: keptMg }, when())] : []),
  )
  return { jobId, cylinderId, systemId, runId }
}

const which = (doubts: DoubtfulTransfer[]) => doubts.map((each) => each.transferId)

describe('a scale that failed its check', () => {
  it('puts in doubt what it weighed since it was good last, until it is good again or somebody decides', async () => {
    const shop = await aShop()
    const scale = await aPiece(shop, 'scale')
    const other = await aPiece(shop, 'scale')
    await recovered(shop, -40, { scale })
    await checked(shop, scale.kitId, at(-30), true)
    const first = await recovered(shop, -20, { scale })
    await recovered(shop, -20, { scale: other })
    await checked(shop, scale.kitId, at(-10), false)
    const second = await recovered(shop, -5, { scale })
    const doubts = () => inShop(shop.shopId, (tx) => doubtsOfScale(tx, scale.kitId))
    expect(which(await doubts())).toEqual([second.runId, first.runId])
    expect(await doubts()).toMatchObject([{}, { massMg: 1_000_000, known: 10_000_000, read: 10_060_000 }])
    expect(which(await inShop(shop.shopId, (tx) => doubtsOfJob(tx, first.jobId)))).toEqual([first.runId])
    expect((await inShop(shop.shopId, (tx) => onePiece(tx, scale.kitId)))!.failedAt).toEqual(at(-10))

    await checked(shop, scale.kitId, at(-2), true)
    await recovered(shop, -1, { scale })
    // Set right: what was weighed before that stays in doubt, what comes after is not.
    expect(which(await doubts())).toEqual([second.runId, first.runId])
    expect((await inShop(shop.shopId, (tx) => onePiece(tx, scale.kitId)))!.failedAt).toBeNull()

    await act(shop, scale.kitId, 'decided', at(-1), {
      body: { transferId: first.runId, jobId: first.jobId, how: 'accepted', text: 'far from the limit' },
    })
    expect(which(await doubts())).toEqual([second.runId])
    // Another bad check of that time comes to light: what was decided before is asked about anew.
    const body = { known: 10_000_000, read: 10_080_000 }
    await act(shop, scale.kitId, 'scale-check', at(-15), { now: at(0), passed: false, body })
    expect(which(await doubts())).toEqual([second.runId, first.runId])
  })
  it('is no longer in doubt when the bad check is struck, or all of it is decided on at once', async () => {
    const shop = await aShop()
    const scale = await aPiece(shop, 'scale')
    await recovered(shop, -20, { scale })
    await recovered(shop, -19, { scale })
    const slip = randomUUID()
    await act(shop, scale.kitId, 'scale-check', at(-10), {
      actId: slip,
      passed: false,
      body: { known: 100_000_000, read: 10_000_000 },
    })
    const doubts = () => inShop(shop.shopId, (tx) => doubtsOfScale(tx, scale.kitId))
    expect(await doubts()).toHaveLength(2)
    const strike = (actId: string) =>
      inShop(shop.shopId, (tx) =>
        strikeAct(tx, {
          strikeId: randomUUID(),
          actId,
          kitId: scale.kitId,
          now: at(-9),
          userId: shop.userId,
          text: '10 kg, not 100',
        }),
      )
    expect(await strike(slip)).toBe(true)
    expect(await doubts()).toEqual([])
    expect((await inShop(shop.shopId, (tx) => onePiece(tx, scale.kitId)))!.failedAt).toBeNull()
    const [written] = await inShop(shop.shopId, (tx) => actsOf(tx, scale.kitId))
    expect(written).toMatchObject({ actId: slip, struck: '10 kg, not 100' })
    expect(await strike(randomUUID())).toBe(false)

    await checked(shop, scale.kitId, at(-8), false)
    await act(shop, scale.kitId, 'decided', at(-7), {
      body: { transferId: 'all', how: 'accepted', text: 'small' },
    })
    expect(await doubts()).toEqual([])
    // What is weighed on it after that is asked about again.
    await recovered(shop, -6, { scale })
    expect(await doubts()).toHaveLength(1)
  })
  it('takes in a transfer that arrives late, and lets go one whose scale is corrected', async () => {
    const shop = await aShop()
    const scale = await aPiece(shop, 'scale')
    await checked(shop, scale.kitId, at(-30), true)
    await checked(shop, scale.kitId, at(-10), false)
    const late = await recovered(shop, -20, { scale })
    const doubts = () => inShop(shop.shopId, (tx) => doubtsOfScale(tx, scale.kitId))
    expect(which(await doubts())).toEqual([late.runId])
    const start = await inShop(
      shop.shopId,
      (tx) => tx<{ entryId: string; body: object }[]>`
        select entry_id, body from entry where job_id = ${late.jobId} and kind = 'run-started'`,
    )
    const { scaleId: _gone, ...body } = start[0]!.body as { scaleId: string }
    await note(
      shop,
      late.jobId,
      anEntry('correction', {
        entryId: start[0]!.entryId,
        kind: 'run-started',
        body: body as never,
        reason: 'It was the other scale',
        version: 3,
      }),
    )
    expect(await doubts()).toEqual([])
  })
})

describe('what is due', () => {
  it('is what was never done, then what is done again after its days', async () => {
    const shop = await aShop()
    const scale = await aPiece(shop, 'scale')
    const due = async (upTo: string) =>
      (await inShop(shop.shopId, (tx) => dueKit(tx, upTo, 0.8, 10))).map((k) => [k.label, k.dueWhat, k.dueOn])
    expect(await due('2026-06-01')).toEqual([[scale.label, 'scale-check', '2026-06-01']])
    await checked(shop, scale.kitId, at(0), false)
    expect(await due('2026-06-01')).toHaveLength(1)
    await checked(shop, scale.kitId, at(1), true)
    expect(await due('2026-07-01')).toEqual([])
    expect(await due('2026-07-02')).toEqual([[scale.label, 'scale-check', '2026-07-02']])
  })
})

describe('a machine', () => {
  it('counts what passed its filter since that was fitted, and is due when it is nearly used up', async () => {
    const shop = await aShop()
    const machine = await aPiece(shop, 'machine', { filterLifeMg: 5_000_000 })
    await recovered(shop, -20, { machine, massMg: 3_000_000 })
    await act(shop, machine.kitId, 'filter-fitted', at(-10))
    await recovered(shop, -5, { machine, massMg: 2_500_000 })
    const piece = () => inShop(shop.shopId, (tx) => onePiece(tx, machine.kitId))
    expect((await piece())!.passedMg).toBe(2_500_000)
    expect(await inShop(shop.shopId, (tx) => dueKit(tx, '2026-06-01', 0.8, 10))).toEqual([])
    await recovered(shop, -4, { machine, massMg: 1_500_000 })
    expect((await piece())!.passedMg).toBe(4_000_000)
    expect(await inShop(shop.shopId, (tx) => dueKit(tx, '2026-06-01', 0.8, 10))).toHaveLength(1)
  })

  it('is refused for a flammable gas it is not rated for, and for another gas before it is purged', async () => {
    const shop = await aShop()
    const machine = await aPiece(shop, 'machine', {})
    const use = async (refrigerant: string) => {
      const jobId = await aJob(shop)
      const described = anEntry('job-described', { refrigerant })
      const used = anEntry('kit-used', machine, { at: Date.now() })
      const { refused } = await note(shop, jobId, described, used)
      return refused.flatMap((each) => each.reasons.map((reason) => reason.code))
    }
    expect(await use('R-290')).toEqual(['not-rated-flammable'])
    expect(await use('R-22')).toEqual([])
    await recovered(shop, -5, { machine, refrigerant: 'R-410A' })
    expect(await use('R-22')).toEqual(['holds-another-gas'])
    expect(await use('R-410A')).toEqual([])
    // Purged in a job, after its last pull.
    await recovered(shop, -4, { machine, refrigerant: 'R-410A', steps: ['self-purged'] })
    expect(await use('R-22')).toEqual([])
  })

  it('holds its gas again when the tick of its purge is struck', async () => {
    const shop = await aShop()
    const machine = await aPiece(shop, 'machine')
    const { jobId } = await recovered(shop, -4, { machine, steps: ['self-purged'] })
    const piece = () => inShop(shop.shopId, (tx) => onePiece(tx, machine.kitId))
    expect((await piece())!.purgedAt).not.toBeNull()
    const [tick] = await inShop(
      shop.shopId,
      (tx) => tx<{ entryId: string }[]>`
        select entry_id from entry where job_id = ${jobId} and kind = 'step-done'`,
    )
    const struck = {
      entryId: tick!.entryId,
      kind: 'step-done',
      body: null,
      reason: 'It was not',
      version: 1,
    } as const
    await note(shop, jobId, anEntry('correction', struck))
    expect((await piece())!.purgedAt).toBeNull()
  })

  it('is asked again when the gas is learned after it was taken', async () => {
    const shop = await aShop()
    const machine = await aPiece(shop, 'machine', {})
    const jobId = await aJob(shop)
    const cylinderId = await aCylinder(shop, { refrigerant: 'R-290', flammableOk: true })
    const now = Date.now()
    const { refused } = await note(
      shop,
      jobId,
      anEntry('kit-used', machine, { at: now - 3000 }),
      anEntry('job-described', { refrigerant: 'R-290' }, { at: now - 2000 }),
      anEntry(
        'run-started',
        { runId: randomUUID(), use: 'recover', cylinderId, scale: '', mode: 'gross', weightMg: 10_000_000 },
        { at: now - 1000 },
      ),
    )
    expect(refused.map((each) => each.reasons)).toEqual([[{ code: 'not-rated-flammable' }]])
  })

  it('holds what it was not purged of, until it goes into a cylinder of that gas', async () => {
    const shop = await aShop()
    const machine = await aPiece(shop, 'machine', { holdUpMg: 120_000 })
    await recovered(shop, -5, { machine, keptMg: 120_000 })
    const piece = () => inShop(shop.shopId, (tx) => onePiece(tx, machine.kitId))
    expect(await piece()).toMatchObject({ balanceMg: 120_000, lastGas: 'R-410A', purgedAt: null })
    const purge = (cylinderId: string, massMg: number) =>
      inShop(shop.shopId, (tx) =>
        bookPurge(tx, {
          actId: randomUUID(),
          kitId: machine.kitId,
          what: 'purged',
          at: at(-1),
          now: at(-1),
          userId: shop.userId,
          passed: null,
          body: { cylinderId, massMg },
        }),
      )
    const wrong = await aCylinder(shop, { refrigerant: 'R-22' })
    await expect(purge(wrong, 100_000)).rejects.toThrow(VoucherError)
    const right = await aCylinder(shop, { refrigerant: 'R-410A' })
    await purge(right, 150_000)
    // 120 g were known of, 30 g more came out.
    expect(await piece()).toMatchObject({ balanceMg: 0, purgedAt: at(-1) })
    expect((await inShop(shop.shopId, (tx) => cylinderOf(tx, right)))!.balanceMg).toBe(150_000)
    const moved = await inShop(shop.shopId, (tx) => movements(tx, { cylinderId: right }, 10))
    expect(moved.map((m) => [m.fromPlace, m.massMg]).toSorted()).toEqual([
      ['rig', 120_000],
      ['unexplained', 30_000],
    ])
  })

  it('is emptied of what the books had in it, wherever less came out than that', async () => {
    const shop = await aShop()
    const machine = await aPiece(shop, 'machine')
    await recovered(shop, -5, { machine, keptMg: 200_000 })
    const right = await aCylinder(shop, { refrigerant: 'R-410A' })
    const actId = randomUUID()
    const purge = () =>
      inShop(shop.shopId, (tx) =>
        bookPurge(tx, {
          actId,
          kitId: machine.kitId,
          what: 'purged',
          at: at(-1),
          now: at(-1),
          userId: shop.userId,
          passed: null,
          body: { cylinderId: right, massMg: 150_000 },
        }),
      )
    await purge()
    // Pressed twice.
    await purge()
    expect((await inShop(shop.shopId, (tx) => onePiece(tx, machine.kitId)))!.balanceMg).toBe(0)
    expect((await inShop(shop.shopId, (tx) => cylinderOf(tx, right)))!.balanceMg).toBe(150_000)
  })
})

describe('a shop’s kit', () => {
  it('has one label once among what is not retired, by kind', async () => {
    const shop = await aShop()
    const add = (kind: KitKind, state: 'in-use' | 'retired' = 'in-use') =>
      inShop(shop.shopId, (tx) =>
        addKit(tx, randomUUID(), { kind, label: 'Nr 1', facts: {}, keepsAt: 'Van 9', state }, NOW),
      )
    await add('scale')
    await expect(add('scale')).rejects.toThrow(KitLabelTakenError)
    await add('gauge')
    await add('scale', 'retired')
    const set = await inShop(shop.shopId, (tx) => kitAtPlace(tx, 'van 9'))
    expect(set.map((k) => k.kind)).toEqual(['gauge', 'scale'])
    await aPiece(shop, 'pump', {}, 'VAN 9')
    await aPiece(shop, 'pump', {}, 'Shop')
    await aPiece(shop, 'pump', {}, '')
    const places = await inShop(shop.shopId, kitPlaces)
    expect(places.map((each) => each.toLowerCase())).toEqual(['shop', 'van 9'])
  })
  it('is another shop’s to nobody', async () => {
    const [mine, theirs] = [await aShop(), await aShop()]
    const scale = await aPiece(theirs, 'scale')
    expect(await inShop(mine.shopId, (tx) => onePiece(tx, scale.kitId))).toBeUndefined()
    const jobId = await aJob(mine)
    const { refused } = await note(mine, jobId, anEntry('kit-used', scale))
    expect(refused[0]!.reasons).toEqual([{ code: 'not-there' }])
  })
})
