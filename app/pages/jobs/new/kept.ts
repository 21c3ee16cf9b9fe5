import { type JobKit, namedScale } from '~/kit/job-kit'
import { measure, type ReadersUnits } from '~/base/ui/measure'
import type { Tile } from '~/cylinders/tile'
import { sampleNamed } from '~/samples/sample-field'
import type { Beginning } from './entries'

/** The fields of the form, as they were typed. */
export type TypedBeginning = Partial<
  Record<
    | 'way'
    | 'jobId'
    | 'runId'
    | 'systemId'
    | 'title'
    | 'purpose'
    | 'refrigerant'
    | 'cylinderId'
    | 'cylinder'
    | 'startWeight'
    | 'mode'
    | 'at'
    | 'deviceId'
    | 'scaleId'
    | 'sample'
    | 'deviceSeq'
    | 'newId'
    | 'tare'
    | 'waterCapacity'
    | 'servicePressure'
    | 'testedOn',
    string
  >
>

/** A cylinder as the device knows it. */
type Known = Pick<Tile, 'cylinderId' | 'label' | 'refrigerant' | 'expectedMg'>

interface KnownHere {
  cylinders: readonly Known[]
  scales: readonly JobKit[]
}

/** A beginning that the server could not be asked about: what the device knows of it, or why it knows too little. */
export function keptBeginning(
  typed: TypedBeginning,
  { cylinders, scales }: KnownHere,
  reading: ReadersUnits,
): Beginning | { errors: Record<string, string> } {
  const label = typed.cylinder?.trim().toLowerCase() ?? ''
  const named = cylinders.find(
    (each) => each.cylinderId === typed.cylinderId || (label !== '' && each.label.toLowerCase() === label),
  )
  if (!named && label !== '')
    return {
      errors: {
        cylinder: `No signal, and no cylinder in use that this device knows has the label "${typed.cylinder!.trim()}": look at the label, tap one that is shown here, or add it from its collar.`,
      },
    }
  if (!named && typed.way === 'quick')
    return { errors: { cylinder: 'Tap the cylinder that stands on the scale.' } }
  const weight = measure('weight', typed.startWeight ?? '', reading)
  if (weight.kind === 'wrong') return { errors: { startWeight: weight.message } }
  if (weight.kind === 'choose')
    return { errors: { startWeight: 'The start weight can be read in two ways: choose one first.' } }
  const scale = scales.find((each) => each.kitId === typed.scaleId)
  return {
    jobId: typed.jobId!,
    runId: typed.runId!,
    at: Number(typed.at),
    deviceId: typed.deviceId!,
    deviceSeq: Number(typed.deviceSeq),
    title: typed.title ?? '',
    systemId: typed.systemId || null,
    retrofit: typed.purpose === 'retrofit',
    refrigerant: typed.refrigerant || (named?.refrigerant ?? null),
    ...(named && {
      cylinder: {
        cylinderId: named.cylinderId,
        bookedMg: named.expectedMg,
        startMg: weight.kind === 'one' ? weight.value : undefined,
        sample: sampleNamed(typed.sample, 'weight'),
        mode: typed.mode === 'net' ? 'net' : 'gross',
        scale: scale && namedScale(scale),
      },
    }),
  }
}
