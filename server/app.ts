import { randomBytes } from 'node:crypto'
import { createRequestHandler } from '@react-router/express'
import express, { type NextFunction, type Request, type Response } from 'express'
import { RouterContextProvider } from 'react-router'
import 'react-router'
import { closeDatabase, databaseAnswers, nobodyYet } from '#db'
import { requestFacts } from '~/session/request-facts'
import { contentSecurityPolicy, refuseCrossSite, refuseLargeBodies } from './guard'

/** Everything but static files: health, guards, pages. */
export const app = express()
app.disable('x-powered-by')
// Behind another server the address of the browser and the protocol come from its headers.
if (process.env.KEG_ORIGIN) app.set('trust proxy', 1)

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
  if (process.env.KEG_ORIGIN?.startsWith('https:'))
    response.set('strict-transport-security', 'max-age=31536000')
  next()
})
app.use(refuseCrossSite, refuseLargeBodies)

app.use(
  createRequestHandler({
    build: () => import('virtual:react-router/server-build'),
    mode: process.env.NODE_ENV,
    getLoadContext(request, response) {
      const context = new RouterContextProvider()
      context.set(requestFacts, {
        nonce: response.locals.nonce as string,
        reference: randomBytes(4).toString('hex'),
        address: request.ip ?? '',
      })
      return context
    },
  }),
)

export const close = closeDatabase
export const firstRunOpen = nobodyYet
