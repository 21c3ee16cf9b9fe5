import { Button } from 'react-bootstrap'
import type { CompressorDrive } from '#core/oil'
import { draft } from '~/tape/draft'
import { DRIVE_WORDS } from '~/words/en'
import { useJob } from './job-context'

/** What drives the compressor: as said in this job, else as its system is known; undefined: nobody has said. */
export function useDrive(): CompressorDrive | undefined {
  const { state, data } = useJob()
  if (state.drive) return state.drive
  if (data.system?.drive) return data.system.drive
  return data.system?.trade === 'vehicle' ? undefined : 'stationary'
}

/** Asked of vehicles: a belt, or high voltage. */
export function Drive() {
  const { data, note, closed } = useJob()
  const drive = useDrive()
  if (data.system?.trade !== 'vehicle' && drive === 'stationary') return null
  const asked: CompressorDrive[] = ['belt', 'high-voltage']
  return (
    <div>
      <div className="quiet">What drives its compressor?</div>
      <div className="key-grid" role="group" aria-label="What drives its compressor?">
        {asked.map((each) => (
          <Button
            key={each}
            variant="outline-primary"
            active={drive === each}
            aria-pressed={drive === each}
            disabled={closed || drive === each}
            onClick={() => note([draft('drive-noted', { drive: each })])}
          >
            {DRIVE_WORDS[each]}
          </Button>
        ))}
      </div>
    </div>
  )
}
