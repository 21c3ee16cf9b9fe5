import { timingSafeEqual } from 'node:crypto'
import type { NextFunction, Request, Response } from 'express'
import { collectDefaultMetrics, Gauge, Histogram, Registry } from 'prom-client'
import { databaseLoad } from '#db'
import { heldByPlace } from './loop'

const register = new Registry()
collectDefaultMetrics({ register })

const requests = new Histogram({
  name: 'keg_http_request_duration_seconds',
  help: 'Time from the first byte of a request to the last of its answer, by place, method and kind of answer.',
  labelNames: ['place', 'method', 'status'],
  buckets: [0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 10],
  registers: [register],
})
new Gauge({
  name: 'keg_database_transactions',
  help: 'Transactions of shops that are under way in this process, waiting for a connection or at work.',
  registers: [register],
  collect() {
    this.set(databaseLoad().transactions)
  },
})
new Gauge({
  name: 'keg_database_connections_max',
  help: 'Connections that this process may hold to the database.',
  registers: [register],
  collect() {
    this.set(databaseLoad().connections)
  },
})

new Gauge({
  name: 'keg_loop_held_seconds_max',
  help: 'The longest time in which nobody was answered, by what was asked last; only where that was over 0.1 s.',
  labelNames: ['asked'],
  registers: [register],
  collect() {
    for (const [asked, ms] of heldByPlace()) this.set({ asked }, ms / 1000)
  },
})

/** The first part of a path, where it is one of ours: figures by place, not by what strangers make up. */
const PLACES = new Set(
  'jobs cylinders systems kit slide-rule ledger settings events clocks find due labels exchange api sign-in sign-out first-run'.split(
    ' ',
  ),
)
const METHODS = new Set(['GET', 'HEAD', 'POST'])

export function measured(request: Request, response: Response, next: NextFunction) {
  const done = requests.startTimer()
  const first = request.path.split('/')[1]!.replace(/\.data$/, '')
  const place = first === '' || first === '_root' ? 'bench' : PLACES.has(first) ? first : 'other'
  const method = METHODS.has(request.method) ? request.method : 'other'
  response.once('close', () => done({ place, method, status: `${Math.floor(response.statusCode / 100)}xx` }))
  next()
}

/** For a collector on this machine, or one with the token in KEG_METRICS_TOKEN. */
export async function metrics(request: Request, response: Response) {
  if (!mayRead(request)) return void response.status(404).type('text/plain').send('Not found.')
  response
    .set('cache-control', 'no-store')
    .type(register.contentType)
    .send(await register.metrics())
}

const LOOPBACK = new Set(['127.0.0.1', '::1', '::ffff:127.0.0.1'])

function mayRead(request: Request): boolean {
  const token = process.env.KEG_METRICS_TOKEN
  const sent = request.get('authorization')?.replace(/^Bearer /, '')
  if (token && sent && same(sent, token)) return true
  // What a server in between has passed on comes from somewhere else.
  const passedOn = ['x-forwarded-for', 'forwarded', 'via', 'x-real-ip'].some(
    (name) => request.get(name) !== undefined,
  )
  return !passedOn && LOOPBACK.has(request.socket.remoteAddress ?? '')
}

function same(a: string, b: string): boolean {
  const [first, second] = [Buffer.from(a), Buffer.from(b)]
  return first.length === second.length && timingSafeEqual(first, second)
}
