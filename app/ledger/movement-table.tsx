import { Link } from 'react-router'
import type { MovementRow } from '#db'
import { useShow } from '~/ui/reader'
import { dayAndTime } from '~/ui/time'
import { KNOWN_BY_WORDS, PLACE_WORDS, VOUCHER_WORDS } from '~/wording/en'
import { WideTable } from '~/ui/wide-table'

interface MovementTableProps {
  movements: MovementRow[]
  timeZone: string
  /** Signs amounts as seen from this cylinder or system. */
  seenFrom?: string
}

/** Movements of mass: from where, to where, how it is known, and what it was booked for. */
export function MovementTable({ movements, timeZone, seenFrom }: MovementTableProps) {
  const show = useShow()
  if (movements.length === 0) return <p className="mb-0 quiet">Nothing has been booked yet.</p>
  return (
    <WideTable label="Movements">
      <thead>
        <tr>
          <th>When</th>
          <th>From</th>
          <th>To</th>
          <th>Gas</th>
          <th className="num">Mass</th>
          <th>Known</th>
          <th>For</th>
          <th>By</th>
        </tr>
      </thead>
      <tbody>
        {movements.map((m) => (
          <tr key={m.movementId}>
            <td className="digits">{dayAndTime(m.at, timeZone)}</td>
            <td>
              <PlaceLink kind={m.fromPlace} id={m.fromCylinder ?? m.fromSystem} label={m.fromLabel} />
            </td>
            <td>
              <PlaceLink kind={m.toPlace} id={m.toCylinder ?? m.toSystem} label={m.toLabel} />
            </td>
            <td className="digits">{m.refrigerant}</td>
            <td className="num">
              {seenFrom && ([m.toCylinder, m.toSystem].includes(seenFrom) ? '+' : '−')}
              {show('weight', m.massMg)}
            </td>
            <td>
              {KNOWN_BY_WORDS[m.knownBy]}{' '}
              <span className="quiet digits">± {show('weight', 2 * m.uncertaintyMg)}</span>
            </td>
            <td>
              {m.jobId ? (
                <Link to={`/jobs/${m.jobId}`}>Job {m.jobNumber}</Link>
              ) : (
                <>
                  {VOUCHER_WORDS[m.voucherKind ?? ''] ?? m.voucherKind}
                  {m.voucherText && <div className="quiet">{m.voucherText}</div>}
                </>
              )}
            </td>
            <td>{m.by}</td>
          </tr>
        ))}
      </tbody>
    </WideTable>
  )
}

function PlaceLink({
  kind,
  id,
  label,
}: {
  kind: MovementRow['fromPlace']
  id: string | null
  label: string | null
}) {
  if (kind === 'cylinder') return <Link to={`/cylinders/${id}`}>{label}</Link>
  if (kind === 'system') return <Link to={`/systems/${id}`}>{label}</Link>
  return PLACE_WORDS[kind]
}
