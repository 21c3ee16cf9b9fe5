import {
  type ColumnDef,
  flexRender,
  getCoreRowModel,
  getSortedRowModel,
  type SortingState,
  useReactTable,
} from '@tanstack/react-table'
import { ArrowDown, ArrowUp, Columns3 } from 'lucide-react'
import { Link, useSearchParams } from 'react-router'
import { WideTable } from './wide-table'

export interface Column<Row> {
  id: string
  name: string
  cell: (row: Row) => React.ReactNode
  /** What it is sorted by; left out: it cannot be. */
  by?: (row: Row) => string | number
  /** Digits, to the right. */
  num?: boolean
  /** Not shown until somebody wants it. */
  hidden?: boolean
}

interface DataTableProps<Row> {
  label: string
  columns: Column<Row>[]
  rows: Row[]
  rowId: (row: Row) => string
  /** Sorted and paged by the server: what the page shows of how much. Left out: all rows are here. */
  server?: { sort: string; down: boolean; page: number; pages: number; sorts: readonly string[] }
  empty: string
  /** Within a sheet already. */
  bare?: boolean
}

/** Before the names of address parts, where a page has several tables. */
const SORT = 'sort'
const COLUMNS = 'columns'

/**
 * A list of rows: sorted by its headings, with the columns that one wants. Both stand in the address, so that a link, the
 * back button and a page without scripts show the same.
 */
export function DataTable<Row>({
  label,
  columns,
  rows,
  rowId,
  server,
  empty,
  bare = false,
}: DataTableProps<Row>) {
  const [search] = useSearchParams()
  const asked = search.get(SORT) ?? ''
  const sorting: SortingState = server
    ? [{ id: server.sort, desc: server.down }]
    : columns.some((each) => each.by && each.id === asked.replace(/^-/, ''))
      ? [{ id: asked.replace(/^-/, ''), desc: asked.startsWith('-') }]
      : []
  const turned = new Set((search.get(COLUMNS) ?? '').split('.').filter(Boolean))
  const shown = (each: Column<Row>) => turned.has(each.id) === (each.hidden ?? false)
  const defs = columns.map((each): ColumnDef<Row> => ({
    id: each.id,
    header: each.name,
    cell: ({ row }) => each.cell(row.original),
    // Whatever can be sorted has a value; where the server sorts, it has it.
    accessorFn: each.by ?? (() => ''),
    sortingFn: (a, b) => (each.by ? compare(each.by(a.original), each.by(b.original)) : 0),
    enableSorting: server ? server.sorts.includes(each.id) : each.by !== undefined,
  }))
  // eslint-disable-next-line react-hooks/incompatible-library
  const table = useReactTable({
    data: rows,
    columns: defs,
    getRowId: rowId,
    state: {
      sorting,
      columnVisibility: Object.fromEntries(columns.map((each) => [each.id, shown(each)])),
    },
    manualSorting: server !== undefined,
    manualPagination: true,
    getCoreRowModel: getCoreRowModel(),
    getSortedRowModel: getSortedRowModel(),
  })
  const column = new Map(columns.map((each) => [each.id, each]))
  const to = (part: Record<string, string>) => {
    const next = new URLSearchParams(search)
    for (const [name, value] of Object.entries(part))
      if (value) next.set(name, value)
      else next.delete(name)
    return `?${next}`
  }
  return (
    <>
      {rows.length === 0 ? (
        <div className={bare ? 'quiet' : 'empty'}>{empty}</div>
      ) : (
        <div className={bare ? undefined : 'sheet'}>
          <details className="columns-choice">
            <summary>
              <Columns3 size={16} aria-hidden /> Columns
            </summary>
            <div className="row-of">
              {columns.map((each) => (
                <Link
                  key={each.id}
                  className={`btn btn-outline-secondary${shown(each) ? ' active' : ''}`}
                  to={to({ [COLUMNS]: turn(turned, each.id) })}
                  preventScrollReset
                  replace
                >
                  {shown(each) ? 'Hide' : 'Show'} {each.name}
                </Link>
              ))}
            </div>
          </details>
          <WideTable label={label}>
            <thead>
              {table.getHeaderGroups().map((group) => (
                <tr key={group.id}>
                  {group.headers.map((header) => {
                    const { id } = header.column
                    const sorted = header.column.getIsSorted()
                    return (
                      <th
                        key={id}
                        className={column.get(id)!.num ? 'num' : undefined}
                        aria-sort={
                          sorted === 'asc' ? 'ascending' : sorted === 'desc' ? 'descending' : undefined
                        }
                      >
                        {header.column.getCanSort() ? (
                          <Link
                            className="sort-link"
                            to={to({ [SORT]: sorted === 'asc' ? `-${id}` : id, page: '' })}
                            preventScrollReset
                            replace
                          >
                            {flexRender(header.column.columnDef.header, header.getContext())}
                            {sorted === 'asc' && <ArrowUp size={14} aria-hidden />}
                            {sorted === 'desc' && <ArrowDown size={14} aria-hidden />}
                          </Link>
                        ) : (
                          flexRender(header.column.columnDef.header, header.getContext())
                        )}
                      </th>
                    )
                  })}
                </tr>
              ))}
            </thead>
            <tbody>
              {table.getRowModel().rows.map((row) => (
                <tr key={row.id}>
                  {row.getVisibleCells().map((cell) => (
                    <td key={cell.id} className={column.get(cell.column.id)!.num ? 'num' : undefined}>
                      {flexRender(cell.column.columnDef.cell, cell.getContext())}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </WideTable>
        </div>
      )}
      {server && server.pages > 1 && (
        <nav className="row-of mt-3" aria-label={`Pages: ${label}`}>
          {server.page > 1 && (
            <Link className="btn btn-outline-secondary" to={to({ page: String(server.page - 1) })}>
              Before
            </Link>
          )}
          <span>
            Page {server.page} of {server.pages}
          </span>
          {server.page < server.pages && (
            <Link className="btn btn-outline-secondary" to={to({ page: String(server.page + 1) })}>
              Next
            </Link>
          )}
        </nav>
      )}
    </>
  )
}

function turn(turned: ReadonlySet<string>, id: string): string {
  const next = turned.has(id) ? [...turned].filter((each) => each !== id) : [...turned, id]
  return next.join('.')
}

const words = new Intl.Collator('en', { numeric: true, sensitivity: 'base' })

function compare(a: string | number, b: string | number): number {
  return typeof a === 'number' && typeof b === 'number' ? a - b : words.compare(String(a), String(b))
}
