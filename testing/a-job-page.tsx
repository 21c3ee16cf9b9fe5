// A job as its page has it, for tests of what the panels say: rendered on the server, without a browser.
import type { ReactNode } from 'react'
import { renderToStaticMarkup } from 'react-dom/server'
import { createMemoryRouter, RouterProvider } from 'react-router'
import { type Entry, type EntryBodies, type EntryKind, foldTape } from '#core/tape'
import { METRIC_UNITS, type Units } from '#core/units'
import { JobContext, type OpenJob } from '~/job/field/job-context'
import type { JobCylinder, JobData } from '~/job-data/data'
import { OutboxProvider } from '~/device/outbox/outbox-context'
import { ReaderContext } from '~/base/ui/reader'
import { aCylinderRecord } from './a-cylinder-record'
import { anEntry } from './an-entry'

/** A minute after the one before. */
let minutes = 0
export const wrote = <K extends EntryKind>(kind: K, body: EntryBodies[K], at = ++minutes * 60_000): Entry =>
  anEntry(kind, body, { at, userId: 'u' })

export const jobCylinder = (over: Partial<JobCylinder> = {}): JobCylinder => ({
  ...aCylinderRecord({ label: 'Gull 1', condition: 'used', balanceMg: 3_000_000 }),
  version: 1,
  beforeMg: 3_000_000,
  keepsAt: '',
  weighedAt: null,
  owner: null,
  ...over,
})

export const aSystemRecord = (): NonNullable<JobData['system']> => ({
  systemId: 's',
  version: 1,
  name: 'Retarder',
  siteId: 'site',
  site: 'Mole street',
  customer: 'Old Mole Bakery',
  customerId: 'c',
  altitudeM: 0,
  balanceMg: 0,
  plateJob: null,
  trade: 'stationary',
  refrigerant: 'R-410A',
  plateMg: 3_000_000,
  plateText: '',
  panelTotalMg: null,
  lines: [],
  accessories: [],
  oilType: 'POE 32',
  registration: '',
  vin: null,
  compressor: '',
  drive: '',
  metering: 'valve',
  subcoolingTargetK: null,
  maxTestPressurePa: null,
})

interface Over {
  system?: JobData['system']
  cylinders?: JobCylinder[]
  mayWrite?: boolean
  units?: Units
}

const dataOf = (entries: Entry[], over: Over): JobData => ({
  jobId: 'j',
  number: 7,
  checkpoint: null,
  entries,
  booksBefore: null,
  inBooksMg: 0,
  lastCharged: null,
  busy: [],
  live: [],
  pastRuns: [],
  chargeLags: [],
  dyedAt: null,
  standIns: [],
  bay: null,
  system: over.system === undefined ? aSystemRecord() : over.system,
  cylinders: over.cylinders ?? [jobCylinder()],
  systems: [],
  people: { u: 'Robin' },
  shop: { timeZone: 'UTC', marginPct: 0, heading: 'Harbour' },
  today: '2026-06-01',
  kit: [],
  van: '',
  places: [],
  doubts: [],
  loadedAt: 0,
  mayWrite: over.mayWrite ?? true,
})

/** A page as the server renders it, with what stands around every page. */
function rendered(page: ReactNode, units: Units = METRIC_UNITS): string {
  const element = (
    <ReaderContext value={{ units }}>
      <OutboxProvider theme="auto" person={{ userId: 'u', name: 'Robin' }}>
        {page}
      </OutboxProvider>
    </ReaderContext>
  )
  return renderToStaticMarkup(<RouterProvider router={createMemoryRouter([{ path: '*', element }])} />)
}

/** A part of the job page, as the server renders it. */
export function partOf(part: ReactNode, entries: Entry[], over: Over = {}): string {
  const data = dataOf(entries, over)
  const state = foldTape(entries)
  const job: OpenJob = {
    data,
    state,
    note: () => {},
    closed: !data.mayWrite || state.status === 'closed',
    cylinderOf: (id) => data.cylinders.find((c) => c.cylinderId === id),
    learn: () => {},
    openStage: () => {},
    wholeJob: () => {},
  }
  return rendered(<JobContext value={job}>{part}</JobContext>, over.units)
}

/** What a part of the job page says, as plain text. */
export const said = (part: ReactNode, entries: Entry[], over: Over = {}): string =>
  partOf(part, entries, over)
    .replace(/<[^>]+>/g, ' ')
    .replace(/&#x27;|&rsquo;/g, "'")
    .replace(/&amp;/g, '&')
    .replace(/\s+/g, ' ')
