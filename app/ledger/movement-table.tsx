import { Link } from 'react-router'
import type { MovementRow } from '#db'
import { useShow } from '~/base/ui/reader'
import { dayAndTime } from '~/base/ui/time'
import { KNOWN_BY_WORDS, PLACE_WORDS, VOUCHER_WORDS } from '~/words/en'
import { type Column, DataTable } from '~/base/ui/data-table'

interface MovementTableProps {
  movements: MovementRow[]
  timeZone: string
  /** Signs amounts as seen from this cylinder or system. */
  seenFrom?: string
}

/** Movements of mass: from where, to where, how it is known, and what it was booked for. */
export function MovementTable({ movements, timeZone, seenFrom }: MovementTableProps) {
  const show = useShow()
  const columns: Column<MovementRow>[] = [
    { id: 'at', name: 'When', cell: (m) => <span className="digits">{dayAndTime(m.at, timeZone)}</span> },
    {
      id: 'from',
      name: 'From',
      cell: (m) => (
        <PlaceLink kind={m.fromPlace} id={m.fromCylinder ?? m.fromSystem ?? m.fromKit} label={m.fromLabel} />
      ),
    },
    {
      id: 'to',
      name: 'To',
      cell: (m) => (
        <PlaceLink kind={m.toPlace} id={m.toCylinder ?? m.toSystem ?? m.toKit} label={m.toLabel} />
      ),
    },
    { id: 'gas', name: 'Gas', cell: (m) => <span className="one-word">{m.refrigerant}</span> },
    {
      id: 'mass',
      name: 'Mass',
      num: true,
      cell: (m) => (
        <>
          {seenFrom && ([m.toCylinder, m.toSystem, m.toKit].includes(seenFrom) ? '+' : '−')}
          {show('weight', m.massMg)}
        </>
      ),
    },
    {
      id: 'known',
      name: 'Known',
      cell: (m) => (
        <>
          {KNOWN_BY_WORDS[m.knownBy]}{' '}
          <span className="quiet digits">± {show('weight', 2 * m.uncertaintyMg)}</span>
        </>
      ),
    },
    {
      id: 'for',
      name: 'For',
      cell: (m) =>
        m.jobId ? (
          <Link to={`/jobs/${m.jobId}`}>Job {m.jobNumber}</Link>
        ) : (
          <>
            {VOUCHER_WORDS[m.voucherKind ?? ''] ?? m.voucherKind}
            {m.voucherText && <div className="quiet">{m.voucherText}</div>}
          </>
        ),
    },
    { id: 'by', name: 'By', cell: (m) => m.by },
  ]
  return (
    <DataTable
      label="Movements"
      columns={columns}
      rows={movements}
      rowId={(m) => m.movementId}
      empty="Nothing has been booked yet."
      bare
    />
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
  if (kind === 'rig' && id) return <Link to={`/kit/${id}`}>{label}</Link>
  return PLACE_WORDS[kind]
}
