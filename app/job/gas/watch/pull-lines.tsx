import { pullsOf } from '#core/tape'
import { Value } from '~/base/ui/reader'
import { duration } from '~/base/ui/time'
import { WideTable } from '~/base/ui/wide-table'
import { useJob } from '~/job/field/job-context'

/** Pull by pull: from where, to where, how much, and what came back. */
export function PullLines() {
  const { state, cylinderOf } = useJob()
  const lines = pullsOf(state)
  if (lines.length === 0) return null
  return (
    <WideTable label="Pull by pull">
      <thead>
        <tr>
          <th>Pull</th>
          <th>Into</th>
          <th>From</th>
          <th>Down to</th>
          <th>Brought</th>
          <th>After waiting</th>
        </tr>
      </thead>
      <tbody>
        {lines.map(
          ({ transferId, cylinderId, amountMg, startPa, endPa, reboundPa, reboundAfterMs, purgeMg }, i) => (
            <tr key={transferId}>
              <td>{i + 1}</td>
              <td>{cylinderOf(cylinderId)?.label ?? '–'}</td>
              <td>{startPa === undefined ? '–' : <Value kind="pressure" of={startPa} />}</td>
              <td>{endPa === undefined ? '–' : <Value kind="pressure" of={endPa} />}</td>
              <td>
                <Value kind="weight" of={amountMg} />
                {purgeMg !== undefined && (
                  <div className="quiet">
                    of it by the purge <Value kind="weight" of={purgeMg} />
                  </div>
                )}
              </td>
              <td>
                {reboundPa === undefined ? (
                  '–'
                ) : (
                  <>
                    <Value kind="pressure" of={reboundPa} />{' '}
                    <span className="quiet">in {duration(reboundAfterMs! / 1000)}</span>
                  </>
                )}
              </td>
            </tr>
          ),
        )}
      </tbody>
    </WideTable>
  )
}
