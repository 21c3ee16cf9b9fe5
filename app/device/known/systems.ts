import {
  type JobAhead,
  type PlateBefore,
  systemAfter,
  type SystemBefore,
  systemBefore,
  systemWith,
} from '#core/unsent'
import type { SystemRow } from '#db'
import type { Pack } from '../pack/pack'
import type { DeviceJob } from './device'

type Systems = Pick<Pack, 'systems' | 'systemPasts'>

const ahead = ({ booked, state }: DeviceJob): JobAhead => ({ before: booked, after: state })

/** Systems with what jobs did to them here: what is in them, and what follows for their data. */
export function systemsAfter({ systems }: Systems, jobs: readonly DeviceJob[]): SystemRow[] {
  const touched = new Set(jobs.map(({ state }) => state.systemId))
  const inOrder = jobs
    .map((job) => ({ ...ahead(job), jobId: job.jobId, plateWas: job.packed?.beside.plateWas ?? null }))
    .sort((a, b) => a.after.openedAt - b.after.openedAt)
  return systems.map((row) => {
    if (!touched.has(row.systemId)) return row
    const own = inOrder.filter(({ after }) => after.systemId === row.systemId)
    const balanceMg = own.reduce((sum, job) => systemAfter(row.systemId, sum, job), row.balanceMg)
    return { ...systemWith(row, own), balanceMg }
  })
}

/**
 * What is known of the system of a job that was begun here from before it.
 * @param others that have something ahead of the books @returns undefined: it has none, or an unknown one
 */
export function knownBefore(
  { systems, systemPasts }: Systems,
  others: readonly DeviceJob[],
  { state }: DeviceJob,
): SystemBefore | undefined {
  const row = systems.find(({ systemId }) => systemId === state.systemId)
  if (!row) return undefined
  const past = systemPasts.find(({ systemId }) => systemId === row.systemId)
  const known = {
    whole: past?.whole ?? false,
    balanceMg: row.balanceMg,
    chargedAt: past?.chargedAt?.getTime() ?? null,
    dyedAt: past?.dyedAt?.getTime() ?? null,
  }
  return systemBefore(row.systemId, known, others.map(ahead), state.openedAt)
}

/** The system's plate as a job that changed the gas found it; null: it changed none. */
export function plateFound(
  pack: Systems,
  others: readonly DeviceJob[],
  { packed, state }: DeviceJob,
): PlateBefore | null {
  const [first] = state.gasChanges
  if (!first) return null
  if (packed?.beside.plateWas) return packed.beside.plateWas
  const found = systemsAfter(pack, others).find((each) => each.systemId === state.systemId)
  if (!found) return null
  const { refrigerant, oilType, plateMg, plateText, panelTotalMg } = found
  return {
    fromGas: first.from ?? refrigerant,
    wasOil: oilType,
    wasPlateMg: plateMg,
    wasPlateText: plateText,
    wasPanelMg: panelTotalMg,
  }
}
