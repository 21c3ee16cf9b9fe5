/**
 * There is no way to the database just now, or no room on it: whoever asked asks again in a moment. It has the shape of
 * an answer as the router knows them, so that whoever is asked says it in words and with its status.
 */
export class BusyError extends Error {
  override name = 'BusyError'
  readonly status = 503
  readonly statusText = 'Busy'
  readonly internal = false
  readonly data: string
  constructor(what: string, cause?: unknown) {
    super(what, { cause })
    this.data = 'Keg has its hands full just now, and nothing was changed. Try it again in a moment.'
  }
}

/** No connection, one that was lost, or a lock that others held for too long. */
const NOT_NOW = new Set([
  'ECONNREFUSED',
  'ECONNRESET',
  'ENOTFOUND',
  'ETIMEDOUT',
  'EPIPE',
  'CONNECT_TIMEOUT',
  'CONNECTION_CLOSED',
  'CONNECTION_DESTROYED',
  'CONNECTION_ENDED',
  // A server that starts, stops, ends a session, has no room for another, or is none that takes writes.
  '57P01',
  '57P02',
  '57P03',
  '53300',
  '25006',
  // A lock that was not to be had in time.
  '55P03',
])

/** What an answer of the database, or none, means for whoever asked. */
export function asBusy(error: unknown): unknown {
  const code = (error as { code?: unknown } | null)?.code
  return typeof code === 'string' && NOT_NOW.has(code)
    ? new BusyError(`The database: ${code}, ${(error as Error).message}`, error)
    : error
}
