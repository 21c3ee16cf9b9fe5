import { type JobKit, namedScale } from '~/kit/job-kit'
import { measure, type ReadersUnits } from '~/ui/measure'
import type { Tile } from '~/cylinders/tile.server'
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
    | 'deviceSeq',
    string
  >
>

/** A beginning that the server could not be asked about: what the device knows of it, or why it knows too little. */
export function keptBeginning(
  typed: TypedBeginning,
  { tiles, scales }: { tiles: Tile[]; scales: JobKit[] },
  reading: ReadersUnits,
): Beginning | { wrong: string } {
  const label = typed.cylinder?.trim().toLowerCase() ?? ''
  const tile = tiles.find(
    (each) => each.cylinderId === typed.cylinderId || (label !== '' && each.label.toLowerCase() === label),
  )
  if (!tile && label !== '')
    return {
      wrong: 'No signal: without one only a cylinder that is shown here can be taken. Tap one of them.',
    }
  if (!tile && typed.way === 'quick') return { wrong: 'Tap the cylinder that stands on the scale.' }
  const weight = measure('weight', typed.startWeight ?? '', reading)
  if (weight.kind === 'wrong') return { wrong: weight.message }
  if (weight.kind === 'choose')
    return { wrong: 'The start weight can be read in two ways: choose one first.' }
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
    refrigerant: typed.refrigerant || (tile?.refrigerant ?? null),
    ...(tile && {
      cylinder: {
        cylinderId: tile.cylinderId,
        bookedMg: tile.expectedMg,
        startMg: weight.kind === 'one' ? weight.value : undefined,
        sample: sampleNamed(typed.sample, 'weight'),
        mode: typed.mode === 'net' ? 'net' : 'gross',
        scale: scale && namedScale(scale),
      },
    }),
  }
}
