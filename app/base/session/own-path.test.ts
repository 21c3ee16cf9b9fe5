import { describe, expect, it } from 'vitest'
import { ownPath, pageOf } from './own-path'

describe('ownPath', () => {
  it('leads to pages of our own, with what they were asked', () => {
    expect(ownPath('/ledger?refrigerant=R-22&from=2026-01-01')).toBe(
      '/ledger?refrigerant=R-22&from=2026-01-01',
    )
    expect(ownPath('/jobs/1#tape')).toBe('/jobs/1#tape')
    expect(ownPath('/ledger?refrigerant=R-22&_routes=routes%2Fledger')).toBe('/ledger?refrigerant=R-22')
    expect(ownPath('/cylinders.data?_routes=frame')).toBe('/cylinders')
    expect(ownPath('/_root.data')).toBe('/')
  })
  it.each([
    '//elsewhere.test',
    '///elsewhere.test',
    '/\\elsewhere.test',
    '\\\\elsewhere.test',
    '/\t/elsewhere.test',
    '/\n/elsewhere.test',
    '\t//elsewhere.test',
    '/.//elsewhere.test',
    '/x/..//elsewhere.test',
    'https://elsewhere.test',
    'https:elsewhere.test',
    'javascript:alert(1)',
    ' /ledger',
    'ledger',
    '',
    undefined,
  ])('leads nowhere else: %j', (to) => {
    expect(ownPath(to)).toBe('/')
  })
  it('leaves what is only written like one in our own path', () => {
    expect(ownPath('/%09/elsewhere.test')).toBe('/%09/elsewhere.test')
  })
})

it('the page of a request for data is the page', () => {
  expect(pageOf('http://keg.test/jobs/1.data?_routes=a%2Cb&x=1')).toBe('/jobs/1?x=1')
  expect(pageOf('http://keg.test/_root.data?_routes=a')).toBe('/')
  expect(pageOf('http://keg.test/')).toBe('/')
})
