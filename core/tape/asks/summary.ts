import type { Reference } from '../mass/in-system'
import { addedMg, movedInAll } from '../mass/moved'
import { nextStep } from './next'
import type { JobState } from '../envelope/state'

/** A job as lists show it. @param reference what should have been in its system */
export function inShort(state: JobState, reference?: Reference) {
  const { status, stage, title, systemId, refrigerant, waitingFor, flags } = state
  const { outMg, inMg } = movedInAll(state)
  const lastCharge = state.transfers.findLast((each) => each.use === 'charge' && each.amountMg > 0)
  return {
    status,
    stage,
    next: nextStep(state, reference),
    title,
    systemId,
    refrigerant,
    recoveredMg: outMg,
    chargedMg: inMg,
    addedMg: addedMg(state),
    chargedAt: lastCharge ? new Date(lastCharge.endedAt ?? lastCharge.startedAt) : null,
    targetMg: state.target?.massMg ?? null,
    waitingFor,
    flags,
    openedAt: new Date(state.openedAt),
    lastAt: new Date(state.lastAt),
    closedAt: state.closedAt === undefined ? null : new Date(state.closedAt),
  }
}

/** Cylinders and scales that a transfer of a job is running on. */
export function runsOn({ status, transfers }: JobState): string[] {
  const finished = status === 'closed' || status === 'cancelled'
  const running = finished ? [] : transfers.filter((each) => each.endedAt === undefined)
  const uses = running.flatMap(({ cylinderId, segments }) => {
    const scaleId = segments.at(-1)?.scaleId
    return scaleId ? [cylinderId, scaleId] : [cylinderId]
  })
  return [...new Set(uses)]
}
