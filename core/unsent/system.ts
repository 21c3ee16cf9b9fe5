import { bookings, everEmptied, type JobState, oilMoves, weighedSinceEmpty } from '../tape'
import { type JobAhead, systemAfter } from './books'

/** What of a system's data follows from its jobs. */
export interface SystemInUse {
  systemId: string
  refrigerant: string | null
  plateMg: number | null
  plateText: string
  /** The job in which the plate was read. */
  plateJob: string | null
  panelTotalMg: number | null
  oilType: string
  drive: string
}

/** What a system's plate said before a job changed its gas, as the books have it. */
export interface PlateBefore {
  fromGas: string | null
  wasOil: string
  wasPlateMg: number | null
  wasPlateText: string
  wasPanelMg: number | null
}

/** One of its jobs. */
export interface SystemJob extends JobAhead {
  jobId: string
  /** null: the books know of no change of gas in it. */
  plateWas: PlateBefore | null
}

const LONGEST_TEXT = 200

/**
 * A system's data as its jobs leave it: the gas and the label of a retrofit, a plate that was read, what drives its compressor. The
 * books make the same of it when it arrives.
 * @param jobs in the order in which they were begun
 */
export function systemWith<S extends SystemInUse>(system: S, jobs: readonly SystemJob[]): S {
  return jobs
    .filter(({ after }) => after.systemId === system.systemId)
    .reduce((row, job) => driven(changed(plated(row, job), job), job.after), system)
}

/** A plate that was read in a job stays with its system, where nobody has entered one; what is corrected follows. */
function plated<S extends SystemInUse>(row: S, { jobId, after: { plate } }: SystemJob): S {
  if (!plate) return row.plateJob === jobId ? { ...row, plateMg: null, plateText: '', plateJob: null } : row
  const free = row.panelTotalMg === null && (row.plateMg === null || row.plateJob === jobId)
  return free ? { ...row, plateMg: plate.massMg, plateText: plate.text, plateJob: jobId } : row
}

/** What somebody has entered since the change of gas stands. */
function changed<S extends SystemInUse>(row: S, { before, after, plateWas }: SystemJob): S {
  const [was, is] = [before.gasChanges.at(-1), after.gasChanges.at(-1)]
  if (!was && is)
    return {
      ...row,
      refrigerant: is.to,
      panelTotalMg: weighedSinceEmpty(after),
      plateMg: null,
      plateText: `Before the change of gas: ${row.plateText}`.slice(0, LONGEST_TEXT),
      oilType: is.oilType || row.oilType,
    }
  if (!was || row.refrigerant !== was.to) return row
  if (is)
    return row.panelTotalMg === weighedSinceEmpty(before)
      ? { ...row, refrigerant: is.to, panelTotalMg: weighedSinceEmpty(after) }
      : row
  if (!plateWas) return row
  return {
    ...row,
    refrigerant: plateWas.fromGas,
    oilType: plateWas.wasOil,
    plateMg: plateWas.wasPlateMg,
    plateText: plateWas.wasPlateText,
    panelTotalMg: plateWas.wasPanelMg,
  }
}

const driven = <S extends SystemInUse>(row: S, { drive }: JobState): S =>
  drive === undefined ? row : { ...row, drive }

/** What the books know of a system from before a job. */
export interface SystemBefore {
  /** It was emptied once, and not topped up since: they know all that is in it. */
  whole: boolean
  balanceMg: number
  chargedAt: number | null
  dyedAt: number | null
}

/** Whoever empties a system knows what is in it afterwards; who tops it up says that it had lost something. */
export const wholeAfter = (job: JobState, before: boolean): boolean =>
  everEmptied(job) || (before && !job.transfers.some((each) => each.use === 'charge'))

/**
 * The same with what earlier jobs did to it here.
 * @param known by the books, without any of this
 * @param others jobs that have something ahead of the books, but not the one that asks
 * @param openedAt when that one was begun, ms
 */
export function systemBefore(
  systemId: string,
  known: SystemBefore,
  others: readonly JobAhead[],
  openedAt: number,
): SystemBefore {
  const earlier = others
    .filter(({ after }) => after.systemId === systemId && after.openedAt < openedAt)
    .toSorted((a, b) => a.after.openedAt - b.after.openedAt)
  const charges = earlier.flatMap(({ after }) =>
    bookings(after).filter(
      ({ from, to, at }) =>
        to.kind === 'system' && to.id === systemId && from.kind === 'cylinder' && at < openedAt,
    ),
  )
  const dyes = others
    .filter(({ after }) => after.systemId === systemId)
    .flatMap(({ after }) => oilMoves(after).filter(({ what }) => what === 'dye'))
  const last = (at: number | null, moves: readonly { at: number }[]) =>
    moves.reduce<number | null>((max, each) => Math.max(max ?? -Infinity, each.at), at)
  return {
    whole: earlier.reduce((whole, { after }) => wholeAfter(after, whole), known.whole),
    balanceMg: earlier.reduce((sum, job) => systemAfter(systemId, sum, job), known.balanceMg),
    chargedAt: last(known.chargedAt, charges),
    dyedAt: last(known.dyedAt, dyes),
  }
}
