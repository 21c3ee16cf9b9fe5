import { useSyncExternalStore } from 'react'
import type { Clock } from '#core/tape'
import { heardServer } from '~/tape/made-now'

/** What runs in one job. */
export interface JobClocks {
  jobId: string
  number: number | null
  title: string
  clocks: Clock[]
}

interface Kept {
  userId: string
  jobs: JobClocks[]
  /** Jobs that were worked on here: their clocks call on this device. */
  own: string[]
  /** This device's clock less the server's, ms. */
  offsetMs: number
}

const KEY = 'keg-clocks'
const NOTHING: Kept = { userId: '', jobs: [], own: [], offsetMs: 0 }
const MOST_OWN = 40

let last: Kept = NOTHING
const listeners = new Set<() => void>()

/** What runs, for one person on this device: it survives a reload, another tab, and a time without signal. */
export function useRunning(userId: string): Kept {
  const read = () => (last.userId === userId ? last : (last = kept(userId)))
  return useSyncExternalStore(subscribe, read, () => NOTHING)
}

function subscribe(listener: () => void) {
  const fromOtherTab = ({ key }: StorageEvent) => {
    if (key !== KEY) return
    last = kept(last.userId)
    listener()
  }
  listeners.add(listener)
  window.addEventListener('storage', fromOtherTab)
  return () => {
    listeners.delete(listener)
    window.removeEventListener('storage', fromOtherTab)
  }
}

/** What the server knows to run. What is only known here stays: it was not sent yet. */
export function heard(userId: string, jobs: JobClocks[], offsetMs: number, unsent: ReadonlySet<string>) {
  heardServer(offsetMs)
  const before = kept(userId)
  const known = new Map(before.jobs.map((job) => [job.jobId, job]))
  const fresh = jobs
    .filter(({ jobId }) => !unsent.has(jobId))
    .map((job) => ({ ...job, clocks: job.clocks.map((clock) => withRange(clock, known.get(job.jobId))) }))
  keep({
    ...before,
    jobs: [...fresh, ...before.jobs.filter(({ jobId }) => unsent.has(jobId))],
    offsetMs,
  })
}

/** Without signal: what this device has seen itself is truer, its clock's offset with it. Only where it has nothing this counts. */
export function takenAlong(userId: string, jobs: JobClocks[]) {
  if (!keptHere(userId)) keep({ ...NOTHING, userId, jobs })
}

/** The server knows no plate: how long a transfer takes is told by the page of its job. */
function withRange(clock: Clock, job: JobClocks | undefined): Clock {
  if (clock.dueAt !== null) return clock
  const here = job?.clocks.find(({ clockId }) => clockId === clock.clockId)
  return here
    ? { ...clock, dueAt: here.dueAt, ...('latestAt' in here ? { latestAt: here.latestAt ?? null } : {}) }
    : clock
}

/** What a job's own page sees run, entries that wait included. */
export function seenOnPage(userId: string, job: JobClocks, offsetMs: number) {
  const before = kept(userId)
  const jobs = before.jobs.filter(({ jobId }) => jobId !== job.jobId)
  const own = [job.jobId, ...before.own.filter((jobId) => jobId !== job.jobId)].slice(0, MOST_OWN)
  keep({ ...before, own, offsetMs, jobs: job.clocks.length > 0 ? [job, ...jobs] : jobs })
}

/** One that was answered here runs no more. */
export function answered(userId: string, clockId: string) {
  const before = kept(userId)
  keep({
    ...before,
    jobs: before.jobs
      .map((job) => ({ ...job, clocks: job.clocks.filter((clock) => clock.clockId !== clockId) }))
      .filter((job) => job.clocks.length > 0),
  })
}

/** What this device has kept for one person. */
export function kept(userId: string): Kept {
  return keptHere(userId) ?? (last.userId === userId ? last : { ...NOTHING, userId })
}

function keptHere(userId: string): Kept | undefined {
  try {
    const found = JSON.parse(localStorage.getItem(KEY) ?? 'null') as Kept | null
    if (found?.userId === userId && Array.isArray(found.jobs) && Array.isArray(found.own))
      return { ...found, jobs: found.jobs.filter((job) => Array.isArray(job?.clocks)) }
  } catch {
    // Nothing is kept here, or it is damaged: the server tells again.
  }
  return undefined
}

function keep(next: Kept) {
  last = next
  try {
    localStorage.setItem(KEY, JSON.stringify(next))
  } catch {
    // A browser that keeps nothing: as long as the page is open.
  }
  for (const listener of listeners) listener()
}
