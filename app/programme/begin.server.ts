import { chargeToleranceMg } from '#core/charging'
import { grossLimitMg } from '#core/cylinders'
import { filterUsed } from '#core/kit'
import { OIL_TYPES, type OilType } from '#core/oil'
import {
  BELOW_AIR_PA,
  LEAST_IN_TANK_MG,
  type PlannedStep,
  type ProgrammeOrder,
  programmeProblems,
  type ProgrammeQuestion,
  programmeQuestions,
} from '#core/programme'
import {
  expectedIn,
  isProved,
  type JobState,
  kitInUse,
  needsClearing,
  openedAt,
  openTransfer,
  runningProgramme,
  type Saying,
  wrongOil,
} from '#core/tape'
import { atmospherePa, MG_PER_KG, STANDARD_ATMOSPHERE_PA } from '#core/units'
import { HOLD_RULE } from '#core/vacuum'
import {
  announce,
  command,
  cylinderOf,
  dyedBefore,
  foldOpen,
  inShop,
  kitOf,
  type KitRow,
  lock,
  openTape,
  programmesAt,
  readShop,
  type ShopTx,
  stations,
  systemOf,
} from '#db'
import { PROBLEM_WORDS, BEFORE_IT_BEGINS, REASON_WORDS, STEP_WORDS } from '~/words/en'
import { tell } from './entries.server'

export interface Beginning {
  jobId: string
  programmeId: string
  kitId: string
  steps: PlannedStep[]
  preset?: string
  /** What was asked about it, and is to be done all the same. */
  allTheSame?: ProgrammeQuestion[]
}

/** Why a programme is not begun: one sentence with what to do. Nothing of it is kept. */
export class NotBegun extends Error {
  override name = 'NotBegun'
}

/** A pump as most stations have: 2.5 cfm, m3/s. */
const USUAL_PUMP_M3S = 1.2e-3

const no = (sentence: string) => new NotBegun(sentence)

/**
 * Tells a station to begin, and writes it down: the tank as the cylinder that takes and gives, the target, the programme.
 * @throws NotBegun where it cannot be done, with a sentence
 */
export async function beginProgramme(
  { shopId, userId }: { shopId: string; userId: string },
  { jobId, programmeId, kitId, steps: asked, preset, allTheSame = [] }: Beginning,
  now: Date,
): Promise<void> {
  await inShop(shopId, async (tx) => {
    await lock(tx, { jobId })
    const state = await foldOpen(tx, jobId, await openTape(tx, jobId))
    if (state.programmes.some((each) => each.programmeId === programmeId)) return
    const station = (await stations(tx)).find((each) => each.kitId === kitId)
    if (!station) throw no('This station is not in use, or its device was revoked: choose another one.')
    if (station.busyJob) throw no(busy(station.label, station.busyNumber))
    const refrigerant = mayBegin(state)
    const tank = station.tankId ? await cylinderOf(tx, station.tankId, jobId) : undefined
    if (!tank) throw no('This station has no tank in the rack: choose it under Kit, at the station.')
    const [shop, pieces, system] = await Promise.all([
      readShop(tx),
      kitOf(tx, [kitId]),
      state.systemId ? systemOf(tx, state.systemId) : undefined,
    ])
    checkFilter(pieces[0]!, asked)
    const limitMg = grossLimitMg(tank, refrigerant, shop.fillMarginPct)
    const expectedMg = expectedIn({ jobId, system: system ?? null }, state)?.massMg ?? null
    const airPa = system?.altitudeM ? atmospherePa(system.altitudeM) : STANDARD_ATMOSPHERE_PA
    const steps = asked.map((each) =>
      each.step === 'recover' ? { ...each, downToPa: Math.round(airPa - BELOW_AIR_PA) } : each,
    )
    await checkSteps(tx, jobId, state, steps, expectedMg)
    const question = programmeQuestions(steps, isProved(state)).find((each) => !allTheSame.includes(each))
    if (question) throw no(BEFORE_IT_BEGINS[question])
    checkTank(tank, steps, expectedMg)
    const { appendable, targetMg } = sayings(state, pieces[0]!, station, { steps, expectedMg })
    const begun: Saying = {
      kind: 'programme-begun',
      body: { programmeId, kitId, deviceId: station.deviceId, steps, ...(preset && { preset }) },
    }
    const { refused } = await tell(tx, [...appendable, begun], {
      jobId,
      userId,
      programmeId,
      name: 'bay',
      now,
    })
    const reason = refused[0]?.reasons[0]?.code
    if (reason) throw no(REASON_WORDS[reason])
    // Under the lock of the station: whoever came first has it.
    const others = await programmesAt(tx, kitId)
    if (others.length > 1) throw no(busy(station.label, others[0]!.number))
    const order: ProgrammeOrder = {
      programmeId,
      vehicle: state.systemId ?? jobId,
      plateKg: (targetMg ?? expectedMg ?? state.recoveredMg) / MG_PER_KG || 0.5,
      refrigerant,
      steps,
      leastKg: (tank.tareMg + LEAST_IN_TANK_MG) / MG_PER_KG,
      mostKg: (limitMg ?? tank.tareMg + tank.balanceMg) / MG_PER_KG,
    }
    await command(tx, station.deviceId, { programme: order }, userId, now)
    await announce(tx, { kind: 'device', id: station.deviceId })
  })
}

/** What is in it was all put in by this job. */
const isKnown = ({ episodes }: JobState) => episodes.at(-1)!.began === 'empty'

const busy = (label: string, number: number | null) =>
  `${label} is at job ${number ?? ''}: wait until it is done, stop it there, or choose another station.`

/** @returns the gas */
function mayBegin(state: JobState): string {
  if (state.status !== 'open') throw no('This job is not open: take it up again first.')
  if (runningProgramme(state)) throw no('A station is at this job already: stop that programme first.')
  if (openTransfer(state)) throw no('A transfer is running on this job: end it first.')
  if (!state.refrigerant) throw no('Say which refrigerant is in it first: under Prepare.')
  return state.refrigerant
}

/** A filter that has passed its kilograms cleans nothing any more. */
function checkFilter({ label, facts, passedMg }: KitRow, steps: readonly PlannedStep[]) {
  const used = filterUsed(facts, passedMg)
  if (used !== null && used >= 1 && steps.some((each) => each.step === 'recover'))
    throw no(`The filter of ${label} has passed its kilograms: fit a new one, note it under Kit, then begin.`)
}

/** What has to stay in it, and what is to go out, have to be there, with what comes out of the vehicle. */
function checkTank(
  { label, balanceMg }: { label: string; balanceMg: number },
  steps: readonly PlannedStep[],
  expectedMg: number | null,
) {
  const chargeMg = steps.find((each) => each.step === 'charge')?.massMg ?? 0
  const comesMg = steps.some((each) => each.step === 'recover') ? (expectedMg ?? 0) : 0
  if (chargeMg > 0 && balanceMg + comesMg < chargeMg + LEAST_IN_TANK_MG)
    throw no(
      `${label} has too little in it: what is charged comes out of it, and 2 kg have to stay. Fill it from a supply cylinder first.`,
    )
}

async function checkSteps(
  tx: ShopTx,
  jobId: string,
  state: JobState,
  steps: readonly PlannedStep[],
  expectedMg: number | null,
) {
  const dyed = state.dyed || (state.systemId ? (await dyedBefore(tx, state.systemId, jobId)) !== null : false)
  const problem = programmeProblems(steps, {
    emptied: openedAt(state) !== undefined || isKnown(state),
    inItMg: isKnown(state) ? state.chargedMg : 0,
    fullMg: expectedMg ?? state.target?.massMg ?? null,
    dyed,
  })[0]
  if (problem)
    throw no(`${problem.step ? `${STEP_WORDS[problem.step]}: ` : ''}${PROBLEM_WORDS[problem.code]}`)
  const oilIn = steps.find((each) => each.step === 'oil-in')
  if (!oilIn?.bottleId) return
  const [bottle] = await kitOf(tx, [oilIn.bottleId])
  const oil = OIL_TYPES.find((each) => each === bottle?.facts.oilType) as OilType | undefined
  if (oil && wrongOil(state, oil))
    throw no(
      `${bottle!.label} holds ${oil}: that oil does not belong into this compressor. Choose another bottle.`,
    )
  if (needsClearing(state))
    throw no(
      'High voltage: no oil through hoses that have carried another one. Flush them or take a tool of its own, say so under Oil, then begin.',
    )
}

/** What has to stand on the tape before it begins. */
function sayings(
  state: JobState,
  station: KitRow,
  { tankId }: { tankId: string | null },
  { steps, expectedMg }: { steps: readonly PlannedStep[]; expectedMg: number | null },
): { appendable: Saying[]; targetMg: number | undefined } {
  const has = (step: PlannedStep['step']) => steps.find((each) => each.step === step)
  const appendable: Saying[] = []
  const { kitId, kind, label, facts } = station
  if (!kitInUse(state).some((each) => each.kitId === kitId))
    appendable.push({ kind: 'kit-used', body: { kitId, kind, label, facts } })
  if (has('recover'))
    appendable.push({
      kind: 'cylinder-chosen',
      body: { cylinderId: tankId!, use: 'recover', massMg: expectedMg },
    })
  if (has('hold') && state.vacuumPlan?.method !== 'timed')
    appendable.push({
      kind: 'vacuum-planned',
      body: {
        method: 'timed',
        gaugeAt: 'pump',
        hose: '1/4',
        lengthM: 1.8,
        coresOut: false,
        pumpM3S: facts.flowM3s ?? USUAL_PUMP_M3S,
        targetPa: HOLD_RULE.targetPa,
        targetFrom: 'shop',
      },
    })
  const chargeMg = has('charge')?.massMg
  // On top of what this job has put in already.
  const targetMg = chargeMg === undefined ? undefined : chargeMg + (isKnown(state) ? state.chargedMg : 0)
  if (targetMg !== undefined) {
    appendable.push({
      kind: 'cylinder-chosen',
      body: { cylinderId: tankId!, use: 'charge', massMg: chargeMg! },
    })
    if (state.target?.massMg !== targetMg)
      appendable.push({
        kind: 'target-set',
        body: {
          massMg: targetMg,
          toleranceMg: chargeToleranceMg(targetMg, 'vehicle'),
          basis: targetMg === expectedMg ? 'expected' : 'typed',
        },
      })
  }
  return { appendable, targetMg }
}
