import { hostname } from 'node:os'
import { afterEach, describe, expect, it } from 'vitest'
import {
  comesFromUs,
  contentSecurityPolicy,
  refuseCrossSite,
  refuseLargeBodies,
  refuseOddities,
  seenFromOutside,
} from './guard'

const request = (headers: Record<string, string>) =>
  ({ headers, get: (name: string) => headers[name] }) as unknown as Parameters<typeof comesFromUs>[0]

afterEach(() => {
  delete process.env.KEG_ORIGIN
})

describe('comesFromUs', () => {
  it('believes the browser about where a request comes from', () => {
    expect(comesFromUs(request({ 'sec-fetch-site': 'same-origin' }))).toBe(true)
    for (const site of ['cross-site', 'same-site', 'none'])
      expect(comesFromUs(request({ 'sec-fetch-site': site }))).toBe(false)
  })
  it('compares origin and host where the browser says nothing more', () => {
    expect(comesFromUs(request({ origin: 'http://127.0.0.1:4600', host: '127.0.0.1:4600' }))).toBe(true)
    expect(comesFromUs(request({ origin: 'http://elsewhere.test', host: '127.0.0.1:4600' }))).toBe(false)
    expect(comesFromUs(request({ origin: 'null', host: '127.0.0.1:4600' }))).toBe(false)
    expect(comesFromUs(request({ host: '127.0.0.1:4600' }))).toBe(false)
  })
  it('takes the public address where one is set', () => {
    process.env.KEG_ORIGIN = 'https://keg.harbour.test'
    expect(comesFromUs(request({ origin: 'https://keg.harbour.test', host: '127.0.0.1:4600' }))).toBe(true)
  })
})

/** What a guard answers; 200 where it lets through. */
function guarded(
  guard: typeof refuseCrossSite,
  { method = 'GET', url = '/', headers = { host: '127.0.0.1:4600' } as Record<string, string> },
) {
  let status = 0
  const response = {
    status: (code: number) => ((status = code), response),
    set: () => response,
    type: () => response,
    send: () => response,
  }
  const asked = { method, originalUrl: url, path: url, headers, get: (name: string) => headers[name] }
  guard(asked as never, response as never, () => (status = 200))
  return status
}

it('no detour in the address leads around the guard of pages', () => {
  const post = (url: string) => guarded(refuseCrossSite, { method: 'POST', url })
  expect(post('/api/v1/samples')).toBe(200)
  for (const url of [
    '/jobs/new',
    '/api/../jobs/new',
    '/api/v1/../../sign-out',
    '/api/%2e%2e/jobs/new',
    '//api/v1',
    '/x/api/',
  ])
    expect(post(url), url).toBe(403)
})

describe('refuseOddities', () => {
  const from = (host: string) => guarded(refuseOddities, { headers: { host } })
  it('believes this machine, an address, and with KEG_ORIGIN whatever stands in between', () => {
    for (const host of ['127.0.0.1:4600', 'localhost', '[::1]:4600', '192.168.3.4', hostname()])
      expect(from(host), host).toBe(200)
    for (const host of ['keg.elsewhere.test', 'localhost.elsewhere.test', '127.0.0.1.elsewhere.test'])
      expect(from(host), host).toBe(400)
    process.env.KEG_ORIGIN = 'https://keg.harbour.test'
    expect(from('keg.elsewhere.test')).toBe(200)
  })
  it.each(['', 'a b', 'x/y', 'a@b', '127.0.0.1:99999999', '[::1', '\u00e4'])('%j is no host', (host) => {
    process.env.KEG_ORIGIN = 'https://keg.harbour.test'
    expect(from(host)).toBe(400)
  })
  it('knows the methods of pages and programs', () => {
    for (const method of ['TRACE', 'CONNECT', 'PROPFIND', 'get'])
      expect(guarded(refuseOddities, { method }), method).toBe(405)
    expect(guarded(refuseOddities, { url: 'http://elsewhere.test/' })).toBe(400)
    expect(guarded(refuseOddities, { method: 'PUT', url: '/api/v1/devices/x/state' })).toBe(200)
  })
})

it('the policy names the nonce, and nothing inline', () => {
  const policy = contentSecurityPolicy('abc', false)
  expect(policy).toContain("script-src 'self' 'nonce-abc'")
  expect(policy).not.toMatch(/script-src[^;]*unsafe/)
})

describe('refuseLargeBodies', () => {
  const answer = (method: string, headers: Record<string, string>, path = '/jobs') => {
    let status = 200
    let type = ''
    const response = {
      status: (code: number) => ((status = code), response),
      type: (sent: string) => ((type = sent), response),
      send: () => response,
    }
    const asked = { method, originalUrl: path, get: (name: string) => headers[name] }
    refuseLargeBodies(asked as never, response as never, () => {})
    return path.startsWith('/api/') ? `${status} ${type}` : status
  }
  it('lets through what says that it is small, and nothing else', () => {
    expect(answer('POST', { 'content-length': '2000' })).toBe(200)
    expect(answer('POST', {})).toBe(200)
    expect(answer('GET', { 'content-length': '9000000' })).toBe(200)
    expect(answer('POST', { 'content-length': '9000000' })).toBe(413)
    expect(answer('POST', { 'transfer-encoding': 'chunked' })).toBe(413)
    expect(answer('POST', { 'content-length': 'many' })).toBe(413)
    // A program is told in its own way: a batch of 10 MB, for one.
    expect(answer('POST', { 'content-length': '10000000' }, '/api/v1/samples')).toBe(
      '413 application/problem+json',
    )
  })
})

it('with a public address set every request is one to it, whatever stands in between has made of it', () => {
  process.env.KEG_ORIGIN = 'https://keg.harbour.test'
  const headers: Record<string, string> = { host: '127.0.0.1:4600', 'x-forwarded-host': 'elsewhere.test' }
  const asked = { headers, protocol: 'http' }
  seenFromOutside(asked as never, {} as never, () => {})
  expect(asked).toEqual({ headers: { host: 'keg.harbour.test' }, protocol: 'https' })
  delete process.env.KEG_ORIGIN
  const plain = { headers: { host: '127.0.0.1:4600' }, protocol: 'http' }
  seenFromOutside(plain as never, {} as never, () => {})
  expect(plain.headers.host).toBe('127.0.0.1:4600')
})
