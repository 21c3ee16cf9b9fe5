import { isIP } from 'node:net'
import { hostname } from 'node:os'
import type { NextFunction, Request, Response } from 'express'
import { host as ownHost } from './address'

/** What a page may load: its own files, and scripts and styles that carry this answer's nonce. */
export function contentSecurityPolicy(nonce: string, development: boolean): string {
  return [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}'`,
    // Development injects style elements; chart tooltips set style attributes.
    development ? "style-src 'self' 'unsafe-inline'" : `style-src 'self' 'nonce-${nonce}'`,
    "style-src-attr 'unsafe-inline'",
    "img-src 'self' data:",
    "font-src 'self' data:",
    `connect-src 'self'${development ? ' ws:' : ''}`,
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join('; ')
}

/** The path as the router reads it: `/api/../jobs` is no way around what is asked of `/jobs`. */
const pathOf = ({ originalUrl }: Pick<Request, 'originalUrl'>) =>
  new URL(originalUrl, 'http://keg.invalid').pathname

const METHODS = ['GET', 'HEAD', 'POST', 'PUT', 'PATCH', 'DELETE', 'OPTIONS']
/** A name or an address, and perhaps a port. */
const HOST = /^(\[[0-9a-f:.]+\]|[a-z0-9.-]+)(:\d{1,5})?$/i

/** Without KEG_ORIGIN: this machine by its name, its own address, or any address; a name that somebody made point here is none. */
function isOurs(host: string): boolean {
  const name = host
    .replace(/:\d+$/, '')
    .replace(/^\[|\]$/g, '')
    .toLowerCase()
  return (
    isIP(name) !== 0 ||
    name === 'localhost' ||
    name.endsWith('.localhost') ||
    name === ownHost.toLowerCase() ||
    name === hostname().toLowerCase()
  )
}

/** What no browser and no program of ours would ask: a method, an address or a host that is none. */
export function refuseOddities(request: Request, response: Response, next: NextFunction) {
  const refuse = (status: number, sentence: string) =>
    response.status(status).type('text/plain').send(sentence)
  if (!METHODS.includes(request.method)) {
    response.set('allow', METHODS.join(', '))
    return void refuse(405, 'Keg does not know that method.')
  }
  const host = request.get('host') ?? ''
  if (!HOST.test(host) || !URL.canParse(`http://${host}`))
    return void refuse(400, 'This request names no host that can be read.')
  if (!process.env.KEG_ORIGIN && !isOurs(host))
    return void refuse(
      400,
      'Keg is not known by that name here. Whoever runs it sets KEG_ORIGIN to the address that browsers use.',
    )
  if (!request.originalUrl.startsWith('/') || !URL.canParse(request.originalUrl, 'http://keg.invalid'))
    return void refuse(400, 'This request has no address that can be read.')
  next()
}

/** Whatever changes something must come from a page of ours: the browser says where from. */
export function refuseCrossSite(request: Request, response: Response, next: NextFunction) {
  if (['GET', 'HEAD', 'OPTIONS'].includes(request.method) || comesFromUs(request)) return next()
  // Programs come with a token of their own, never with a browser's cookie.
  if (pathOf(request).startsWith('/api/')) return next()
  response
    .status(403)
    .type('text/plain')
    .send(
      'This request did not come from a page of Keg, so nothing was changed. Open Keg in its own tab and do it there.',
    )
}

export function comesFromUs(request: Pick<Request, 'headers' | 'get'>): boolean {
  const site = request.get('sec-fetch-site')
  if (site) return site === 'same-origin'
  const origin = request.get('origin')
  if (!origin || !URL.canParse(origin)) return false
  const own = process.env.KEG_ORIGIN ? new URL(process.env.KEG_ORIGIN).host : request.get('host')
  return new URL(origin).host === own
}

/** Nothing that Keg takes is larger, but an archive; a batch of 500 entries is a quarter of it. */
export const LARGEST_BODY = 2_000_000
/** The whole of a shop; it is read once somebody has been found to be its manager. */
const LARGEST_ARCHIVE = 64_000_000
const ARCHIVE = '/exchange/archive'
/** A photo as a phone takes it; what is kept is a tenth of that. */
const LARGEST_PHOTO = 12_000_000
const PHOTOS = /^\/jobs\/[0-9a-f-]{36}\/photos$/i

const largest = (path: string) =>
  path === ARCHIVE ? LARGEST_ARCHIVE : PHOTOS.test(path) ? LARGEST_PHOTO : LARGEST_BODY

/** A body says how long it is, and is not longer than anything Keg takes. */
export function refuseLargeBodies(request: Request, response: Response, next: NextFunction) {
  if (['GET', 'HEAD', 'OPTIONS'].includes(request.method)) return next()
  const length = request.get('content-length')
  if (length === undefined && request.get('transfer-encoding') === undefined) return next()
  const path = pathOf(request)
  const most = largest(path)
  if (length !== undefined && Number(length) <= most) return next()
  response.status(413)
  const detail = 'That is more than Keg takes at once: send less.'
  if (path.startsWith('/api/'))
    response
      .type('application/problem+json')
      .send(JSON.stringify({ type: 'about:blank', title: 'Too large', status: 413, detail }))
  else response.type('text/plain').send(detail)
}

/**
 * With KEG_ORIGIN set, that is the address of every request, whatever a server in between has made of Host and protocol:
 * pages compare it with where a form comes from.
 */
export function seenFromOutside(request: Request, _response: Response, next: NextFunction) {
  if (process.env.KEG_ORIGIN) {
    const { host, protocol } = new URL(process.env.KEG_ORIGIN)
    request.headers.host = host
    delete request.headers['x-forwarded-host']
    Object.defineProperty(request, 'protocol', { value: protocol.slice(0, -1) })
  }
  next()
}
