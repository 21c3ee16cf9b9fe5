import { randomBytes } from 'node:crypto'
import { createRequestHandler } from '@react-router/express'
import onHeaders from 'on-headers'
import express, { type NextFunction, type Request, type Response } from 'express'
import { RouterContextProvider, type ServerBuild } from 'react-router'
import * as build from 'virtual:react-router/server-build'
import 'react-router'
import {
  allShops,
  BusyError,
  closeDatabase,
  databaseAnswers,
  firstRunCode as codeOf,
  makeSamplePartitions,
  rebuildOutdated,
  thinOld,
  tidyBatches,
  tidyUp,
} from '#db'
import { watchRuns } from '~/alarms/watch-runs.server'
import { now } from '~/base/session/clock.server'
import { log } from '~/base/session/log.server'
import { requestFacts } from '~/base/session/request-facts'
import { inHandNow } from './loop'
import { measured, metrics } from './metrics'
import { samples } from './samples'
import {
  contentSecurityPolicy,
  refuseCrossSite,
  refuseLargeBodies,
  refuseOddities,
  seenFromOutside,
} from './guard'

/** Everything but static files: health, guards, pages. */
export const app = express()
app.disable('x-powered-by')
// Whose word counts for where a request comes from: `loopback`, addresses or networks, separated by commas.
if (process.env.KEG_TRUST_PROXY) app.set('trust proxy', process.env.KEG_TRUST_PROXY)

app.use(measured, inHandNow)
app.get('/metrics', metrics)
app.get('/healthz', async (_request, response) => {
  const database = await databaseAnswers()
  response
    .status(database ? 200 : 503)
    .set('cache-control', 'no-store')
    .json({ ready: database, database: database ? 'answers' : 'does not answer' })
})

app.use((_request: Request, response: Response, next: NextFunction) => {
  const nonce = randomBytes(16).toString('base64')
  response.locals.nonce = nonce
  response.set({
    'content-security-policy': contentSecurityPolicy(nonce, process.env.KEG_DEV === '1'),
    'x-content-type-options': 'nosniff',
    'referrer-policy': 'same-origin',
    'cross-origin-opener-policy': 'same-origin',
    'permissions-policy': 'camera=(), microphone=(), geolocation=()',
  })
  onHeaders(response, keepPrivate)
  if (process.env.KEG_ORIGIN?.startsWith('https:'))
    response.set('strict-transport-security', 'max-age=31536000')
  next()
})
app.use(refuseOddities, refuseCrossSite, refuseLargeBodies, seenFromOutside)

app.all('/api/v1/samples', ...samples)

app.use(
  createRequestHandler({
    // At once, and no function: what the routes make of it is worked out once, not with every request. Its type says
    // `undefined` where it means "left out".
    build: build as unknown as ServerBuild,
    ...(process.env.NODE_ENV ? { mode: process.env.NODE_ENV } : {}),
    getLoadContext(request, response) {
      const context = new RouterContextProvider()
      context.set(requestFacts, {
        nonce: response.locals.nonce as string,
        reference: randomBytes(4).toString('hex'),
        build: build.assets.version,
        shell: request.path === '/shell',
        address: request.ip ?? '',
      })
      return context
    },
  }),
)

/** What failed outside of pages: said in words, never with what stands in the code. */
app.use((error: Error, _request: Request, response: Response, next: NextFunction) => {
  if (response.headersSent) return next(error)
  if (error instanceof BusyError) {
    response.status(503).type('text/plain').send(error.data)
    return
  }
  log.error({ err: error }, 'request failed outside of pages')
  response.status(500).type('text/plain').send('That did not work, and nothing was changed. Try it again.')
})

/**
 * A shop's data is for whoever signed in, and for no cache on the way, unless an answer says otherwise of itself. Who is told
 * that it cannot be done now is told when to come again.
 */
function keepPrivate(this: Response) {
  if (this.statusCode === 503 && !this.getHeader('retry-after')) this.set('retry-after', '2')
  if (!this.getHeader('cache-control')) this.set('cache-control', 'private, no-store')
  this.vary('cookie')
}

const TIDY_MS = 10 * 60_000

/** Takes away what has run out, once in a while; several processes take turns. */
export function tidyNowAndThen() {
  const tidy = () =>
    tidyUp().then(
      (gone) => gone > 0 && log.debug({ gone }, 'tidied up'),
      (error: unknown) => log.warn({ err: error }, 'tidying up has to wait'),
    )
  setInterval(() => void tidy(), TIDY_MS * (0.9 + 0.2 * Math.random())).unref()
}

const PARTITIONS_MS = 60 * 60_000

/** Makes room for the samples of the days to come, now and every hour, and thins those of days long gone. */
export function keepSamples() {
  const keep = async () => {
    try {
      const today = now()
      await makeSamplePartitions(today)
      await tidyBatches()
      let gone = 0
      for (const shopId of await allShops()) gone += await thinOld(shopId, today)
      if (gone > 0) log.info({ gone }, 'thinned old samples')
    } catch (error) {
      log.warn({ err: error }, 'keeping samples in order has to wait')
    }
  }
  void keep()
  setInterval(() => void keep(), PARTITIONS_MS * (0.9 + 0.2 * Math.random())).unref()
}

const WATCH_MS = 2_000
const SAY_MS = 10_000

/** Watches what runs, for as long as this process lives: each look begins when the last one is over. */
export function watchWhatRuns() {
  const failed = (error: unknown, jobId?: string) =>
    log.warn({ err: error, jobId }, 'what runs could not be watched')
  const look = async () => {
    await watchRuns(now, failed).catch((error: unknown) => failed(error))
    setTimeout(() => void look(), WATCH_MS).unref()
  }
  void look()
}

/** What another version of the fold has made is brought up to date beside the work; several processes may do it at once. */
export function rebuildWhatIsOutdated() {
  let saidAt = Date.now()
  const howFar = (jobs: number) => {
    if (Date.now() - saidAt < SAY_MS) return
    saidAt = Date.now()
    log.info({ jobs }, 'folding jobs of an earlier version again: so many so far')
  }
  rebuildOutdated(howFar).then(
    (jobs) => jobs > 0 && log.info({ jobs }, 'folded jobs of an earlier version again'),
    (error: unknown) => log.error({ err: error }, 'jobs of an earlier version could not be folded again'),
  )
}

export { watchLoop } from './loop'
export const close = closeDatabase
export const firstRunCode = codeOf
