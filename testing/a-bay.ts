// A service station of a shop, played second by second against the shop's own books: no network between them, and a clock
// that goes as fast as it is told to.
import { randomUUID } from 'node:crypto'
import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { KitFacts } from '#core/kit'
import type { PlannedStep, ProgrammeStep } from '#core/programme'
import { PROGRAMME_STEPS, USUAL_STEPS } from '#core/programme'
import { type JobState, runningProgramme } from '#core/tape'
import { commandsAfter, foldOpen, inShop, openTape } from '#db'
import { beginProgramme } from '~/programme/begin.server'
import { giveHand } from '~/programme/hands.server'
import { takeReports } from '~/programme/reports.server'
import type { Rig } from '../instruments/rig'
import { stationRig } from '../instruments/station'
import type { VehicleSetup } from '../sim/station'
import { type AShop, NOW } from './a-shop'
import { aStation, type AStation, aVehicleJob } from './a-station'

/** How often it asks for what there is to do, s. */
const LISTENS_S = 30

export interface ABay extends AStation {
  /** Who stands there, and what the clock says, ms. */
  now: () => Date
  pass: (seconds: number) => void
  /** A job on a vehicle of its own. */
  vehicle: (plateMg?: number, refrigerant?: string) => Promise<string>
  begin: (jobId: string, steps: PlannedStep[]) => Promise<string>
  /** Goes on second by second, with hands that are there at once, until it waits for one of these or has ended. */
  run: (jobId: string, until?: (state: JobState) => boolean, no?: string) => Promise<JobState>
  state: (jobId: string) => Promise<JobState>
  /** The power goes, and comes back. */
  restart: () => void
}

/** Every usual step but these, with 550 g to charge. */
export const usualSteps = (bay: Pick<ABay, 'oilId' | 'dyeId'>, ...left: ProgrammeStep[]): PlannedStep[] =>
  PROGRAMME_STEPS.filter((step) => !left.includes(step)).map((step) => ({
    step,
    ...USUAL_STEPS[step],
    ...(step === 'charge' && { massMg: 550_000 }),
    ...(step === 'oil-in' && { bottleId: bay.oilId }),
    ...(step === 'dye' && { bottleId: bay.dyeId }),
  }))

export async function aBay(
  shop: AShop,
  vehicle: Partial<VehicleSetup> = {},
  facts: KitFacts = {},
): Promise<ABay> {
  const who = { shopId: shop.shopId, userId: shop.userId }
  const station = await aStation(shop, { vehicle, facts })
  const { kitId, deviceId, config } = station
  let at = NOW.getTime()
  const now = () => new Date(at)
  const keptIn = join(mkdtempSync(join(tmpdir(), 'keg-bay-')), 'station.rig')
  let rig: Rig = stationRig(config, keptIn, () => at)
  let heard = 0
  const state = (jobId: string) =>
    inShop(shop.shopId, async (tx) => foldOpen(tx, jobId, await openTape(tx, jobId)))
  async function talk() {
    for (const { nr, command } of await inShop(shop.shopId, (tx) => commandsAfter(tx, deviceId, heard))) {
      rig.obey(command)
      heard = nr
    }
    for (let said = rig.reports!.next(); said; said = rig.reports!.next()) {
      const reports = { ...said, sentAt: at }
      await inShop(shop.shopId, (tx) => takeReports(tx, deviceId, reports, now()))
      rig.reports!.taken(said.programmeId, said.reports.at(-1)!.nr)
    }
  }
  return {
    ...station,
    now,
    pass: (seconds) => (at += seconds * 1_000),
    vehicle: (plateMg = 550_000, refrigerant = 'R-134a') => aVehicleJob(shop, { plateMg, refrigerant, at }),
    begin: async (jobId, steps) => {
      const programmeId = randomUUID()
      await beginProgramme(who, { jobId, programmeId, kitId, steps }, now())
      return programmeId
    },
    async run(jobId, until = () => false, no) {
      for (let second = 0; second < 3 * 3_600; second++) {
        at += 1_000
        rig.advance(1_000)
        if (!rig.reports!.next() && second % LISTENS_S > 0) continue
        await talk()
        let is = await state(jobId)
        for (let asks = runningProgramme(is)?.asks; asks && !until(is); asks = runningProgramme(is)?.asks) {
          await giveHand(who, { jobId, askId: asks.askId, say: asks.ask === no ? 'no' : 'done' }, now())
          await talk()
          is = await state(jobId)
        }
        if (until(is) || !runningProgramme(is)) return is
      }
      throw new Error('Three hours have passed, and the station is still at it.')
    },
    state,
    restart: () => (rig = stationRig(config, keptIn, () => at)),
  }
}
