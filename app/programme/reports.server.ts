import { stationAlarms } from '#core/alarms'
import type { StationReport } from '#core/programme'
import { fromStation, type JobState, lastHoldVerdict, runningProgramme } from '#core/tape'
import { holdPassed } from '#core/vacuum'
import { atmospherePa, STANDARD_ATMOSPHERE_PA } from '#core/units'
import {
  announce,
  append,
  begunBy,
  command,
  cylinderOf,
  foldOpen,
  inShop,
  lock,
  onePiece,
  openTape,
  programmeOf,
  type ProgrammeRow,
  raiseAlarms,
  readShop,
  type ShopTx,
  systemOf,
} from '#db'
import { todayIn } from '~/session/clock.server'
import { entriesOf, idIn } from './entries.server'

/** More sayings than any report makes: so much of its writer's count each has to itself. */
const ROOM = 16

export interface Reports {
  programmeId: string
  /** The station's clock when it sent them, ms. */
  sentAt: number
  reports: StationReport[]
}

/**
 * Writes down what a station says of its programme, in the name of whoever began it; calls for the hand that it asks for;
 * and lets it go on by itself after a hold that has passed.
 * @returns false when this device is at no such programme
 */
export async function takeReports(
  { shopId, deviceId }: { shopId: string; deviceId: string },
  { programmeId, sentAt, reports }: Reports,
  now: Date,
): Promise<boolean> {
  return inShop(shopId, async (tx) => {
    const programme = await programmeOf(tx, programmeId)
    if (!programme || programme.deviceId !== deviceId) return false
    const userId = await begunBy(tx, programme)
    if (!userId) return false
    const { jobId } = programme
    await lock(tx, { jobId })
    const shop = await readShop(tx)
    const write = { jobId, userId, now, today: todayIn(shop.timeZone) }
    for (const report of reports.toSorted((a, b) => a.nr - b.nr)) {
      const state = await foldOpen(tx, jobId, await openTape(tx, jobId))
      const own = state.programmes.find((each) => each.programmeId === programmeId)
      const said = fromStation(
        report,
        own ?? { programmeId, steps: [] },
        state,
        await factsOf(tx, programme, state),
      )
      await append(tx, {
        ...write,
        entries: entriesOf(said, { programmeId, name: 'station', at: report.at, from: report.nr * ROOM }),
        // It has happened already: nothing of it is a decision.
        sentAt: Infinity,
        offsetMs: sentAt - now.getTime(),
      })
    }
    const after = await foldOpen(tx, jobId, await openTape(tx, jobId))
    if (!(await goesOn(tx, programme, after, write))) await raiseAlarms(tx, jobId, stationAlarms(after), now)
    return true
  })
}

/** What has to be known of the station, as it is now. */
async function factsOf(tx: ShopTx, { programmeId, kitId, jobId }: ProgrammeRow, state: JobState) {
  const [piece, system] = await Promise.all([
    onePiece(tx, kitId),
    state.systemId ? systemOf(tx, state.systemId) : undefined,
  ])
  const tankId = piece?.facts.tankId ?? ''
  const tank = tankId ? await cylinderOf(tx, tankId, jobId) : undefined
  return {
    kitId,
    label: piece?.label ?? '',
    tankId,
    ...(tank && { bookedMg: tank.tareMg + tank.balanceMg }),
    ...(piece?.facts.divisionMg !== undefined && { divisionMg: piece.facts.divisionMg }),
    ...(piece?.facts.accuracyMg !== undefined && { accuracyMg: piece.facts.accuracyMg }),
    atmospherePa: system?.altitudeM ? atmospherePa(system.altitudeM) : STANDARD_ATMOSPHERE_PA,
    idFor: (name: string) => idIn(programmeId, name),
  }
}

/** A hold that has passed needs no look: what it is held against is the tape's own verdict. */
async function goesOn(
  tx: ShopTx,
  { programmeId, deviceId, jobId }: ProgrammeRow,
  state: JobState,
  write: { jobId: string; userId: string; now: Date; today: string },
): Promise<boolean> {
  const asks = runningProgramme(state)?.asks
  if (asks?.ask !== 'look-at-hold' || !holdPassed(lastHoldVerdict(state)?.code ?? '')) return false
  const { askId, ask } = asks
  const { userId, now } = write
  await append(tx, {
    ...write,
    entries: entriesOf([{ kind: 'hand-given', body: { programmeId, askId, answer: 'done' } }], {
      programmeId,
      name: `passed-${askId}`,
      at: now.getTime(),
      from: 0,
    }),
    sentAt: Infinity,
    offsetMs: 0,
  })
  await command(tx, deviceId, { answer: { programmeId, ask, say: 'done' } }, userId, now)
  await announce(tx, { kind: 'device', id: deviceId })
  await announce(tx, { kind: 'job', id: jobId })
  return true
}
