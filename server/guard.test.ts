import { afterEach, describe, expect, it } from 'vitest'
import { comesFromUs, contentSecurityPolicy, refuseLargeBodies, seenFromOutside } from './guard'

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
    const asked = { method, path, get: (name: string) => headers[name] }
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
