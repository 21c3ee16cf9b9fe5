import { jobKit } from '~/kit/as-job-kit'
import { refusedHere } from '~/offline/judge'
import { openDevice } from '~/offline/page'
import { currentOutbox } from '~/tape/current'
import { REASON_WORDS, wordOf } from '~/wording/en'
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
  const device = await openDevice()
  const at = Date.now()
  const cylinders = device
    ? device.cylinders
        .filter((each) => !each.retired)
        .map((each) => ({ ...each, expectedMg: each.tareMg + each.balanceMg }))
    : page.tiles
  const scales = device ? device.pack.kit.map((row) => jobKit(row, device.today(at))) : page.scales
  const begun = keptBeginning(typed, { cylinders, scales }, { units: page.units })
  if ('errors' in begun) return begun
  // From a system its plate says which gas it is.
  const plate = device?.pack.systems.find(({ systemId }) => systemId === begun.systemId)
  const entries = beginning({ ...begun, refrigerant: begun.refrigerant ?? plate?.refrigerant ?? null })
  const refused = device ? refusedHere(device, entries, at) : []
  if (refused.length > 0)
    return {
      errors: { cylinder: [...new Set(refused.map(({ code }) => wordOf(REASON_WORDS, code)))].join(' ') },
    }
  void currentOutbox()?.put(begun.jobId, entries)
  return { jobId: begun.jobId, opens: device !== undefined }
}
