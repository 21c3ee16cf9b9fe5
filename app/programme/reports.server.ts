import { stationAlarms } from '#core/alarms'
import type { StationReport } from '#core/programme'
import { fromStation, holdStands, type JobState, runningProgramme, type Saying } from '#core/tape'
import { atmospherePa, STANDARD_ATMOSPHERE_PA } from '#core/units'
import {
  announce,
  begunBy,
  command,
  cylinderOf,
  foldOpen,
  lock,
  onePiece,
  openTape,
  programmeOf,
  type ProgrammeRow,
  raiseAlarms,
  type ShopTx,
  systemOf,
} from '#db'
import { log } from '~/base/session/log.server'
import { idIn, tell } from './entries.server'

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
  tx: ShopTx,
  deviceId: string,
  { programmeId, sentAt, reports }: Reports,
  now: Date,
): Promise<boolean> {
  const programme = await programmeOf(tx, programmeId)
  if (!programme || programme.deviceId !== deviceId) return false
  const userId = await begunBy(tx, programme)
  if (!userId) return false
  const { jobId } = programme
  await lock(tx, { jobId })
  const by = { jobId, userId, programmeId, now }
  for (const report of reports.toSorted((a, b) => a.nr - b.nr)) {
    const state = await foldOpen(tx, jobId, await openTape(tx, jobId))
    const own = state.programmes.find((each) => each.programmeId === programmeId)
    const said = fromStation(
      report,
      own ?? { programmeId, steps: [] },
      state,
      await factsOf(tx, programme, state),
    )
    const { refused } = await tell(tx, said, {
      ...by,
      name: 'station',
      at: report.at,
      from: report.nr * ROOM,
      offsetMs: sentAt - now.getTime(),
      happened: true,
    })
    if (refused.length > 0) log.error({ jobId, programmeId, refused }, 'what a station said was not taken')
  }
  const after = await foldOpen(tx, jobId, await openTape(tx, jobId))
  if (!(await goesOn(tx, programme, after, by))) await raiseAlarms(tx, jobId, stationAlarms(after), now)
  return true
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
  by: { jobId: string; userId: string; programmeId: string; now: Date },
): Promise<boolean> {
  const asks = runningProgramme(state)?.asks
  if (asks?.ask !== 'look-at-hold' || holdStands(state) !== 'passed') return false
  const { askId, ask } = asks
  const { userId, now } = by
  const said: Saying = { kind: 'hand-given', body: { programmeId, askId, answer: 'done' } }
  await tell(tx, [said], { ...by, name: `passed-${askId}`, happened: true })
  await command(tx, deviceId, { answer: { programmeId, ask, say: 'done' } }, userId, now)
  await announce(tx, { kind: 'device', id: deviceId })
  await announce(tx, { kind: 'job', id: jobId })
  return true
}
