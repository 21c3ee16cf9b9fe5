import type { CylinderRow } from '#db'
import { jobKit } from '~/kit/as-job-kit'
import type { Device } from '~/device/known/device'
import { refusedHere } from '~/device/known/judge'
import { cylinderMaking } from '~/device/page/make'
import { openDevice } from '~/device/page/page'
import { currentOutbox } from '~/device/page/current'
import { REASON_WORDS, wordOf } from '~/words/en'
import type { NewJobData } from './data'
import { beginning } from './entries'
import { keptBeginning, type TypedBeginning } from './kept'

/**
 * Begins a job on this device, where the server cannot be asked: judged by its rules, with what is known here.
 * @returns `opens`: the device knows enough for its page
 */
export async function beginHere(
  typed: TypedBeginning,
  page: NewJobData,
): Promise<{ errors: Record<string, string> } | { jobId: string; opens: boolean }> {
  const known = await openDevice()
  const added = known && fromCollar(typed, known)
  if (added && 'errors' in added) {
    const { label, ...errors } = added.errors
    return { errors: label ? { ...errors, cylinder: label } : errors }
  }
  const device = added ? await openDevice([added.making]) : known
  const at = Date.now()
  const cylinders = device
    ? device.cylinders
        .filter((each) => !each.retired)
        .map((each) => ({ ...each, expectedMg: each.tareMg + each.balanceMg }))
    : page.tiles
  const scales = device ? device.kit.map((row) => jobKit(row, device.today(at))) : page.scales
  const begun = keptBeginning(typed, { cylinders, scales }, { units: page.units })
  if ('errors' in begun) return begun
  // From a system its plate says which gas it is.
  const plate = device?.systems.find(({ systemId }) => systemId === begun.systemId)
  const entries = beginning({ ...begun, refrigerant: begun.refrigerant ?? plate?.refrigerant ?? null })
  const refused = device ? refusedHere(device, entries, at) : []
  if (refused.length > 0)
    return {
      errors: { cylinder: [...new Set(refused.map(({ code }) => wordOf(REASON_WORDS, code)))].join(' ') },
    }
  if (added) await currentOutbox()?.make(added.making)
  void currentOutbox()?.put(begun.jobId, entries)
  return { jobId: begun.jobId, opens: device !== undefined }
}

/** One that is not in the rack is added from what is stamped on its collar. */
function fromCollar(typed: TypedBeginning, device: Device) {
  const label = typed.cylinder?.trim() ?? ''
  const inRack = (each: CylinderRow) => !each.retired && each.label.toLowerCase() === label.toLowerCase()
  if (label === '' || typed.cylinderId || !typed.newId || !typed.tare?.trim()) return undefined
  if (device.cylinders.some(inRack)) return undefined
  const { newId: cylinderId, tare, waterCapacity = '', servicePressure = '', testedOn = '' } = typed
  const collar = { cylinderId, label, tare, waterCapacity, servicePressure, testedOn }
  return cylinderMaking(device, { ...collar, kind: 'recovery', testYears: '5', condition: 'clean' })
}
