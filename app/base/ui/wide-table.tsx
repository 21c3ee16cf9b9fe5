import type { ReactNode } from 'react'

/** A table that may be wider than its place: it scrolls, with the keyboard too. */
export function WideTable({ label, children }: { label: string; children: ReactNode }) {
  return (
    <div className="table-scroll" role="region" aria-label={label} tabIndex={0}>
      <table className="ledger-table">{children}</table>
    </div>
  )
}
