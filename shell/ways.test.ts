import { expect, it } from 'vitest'
import { wayOf } from './ways'

const OWN = 'https://keg.example'
const way = (path: string, mode = 'navigate', method = 'GET') => wayOf(new URL(path, OWN), OWN, method, mode)

it.each([
  '/',
  '/jobs/new?cylinder=Gull%204',
  '/jobs/73c9187a-4f92-55a8-bb2c-31cb958ec891/report',
  '/slide-rule/fill?wc=12.1+kg',
  '/sign-in',
])('%s is a page: without signal the shell opens it', (path) => expect(way(path)).toBe('page'))

it.each(['/assets/job-x1.js', '/icons/keg-192.png', '/keg.svg', '/manifest.webmanifest'])(
  '%s is a file of the program',
  (path) => expect(way(path, 'no-cors')).toBe('program'),
)

it.each(['/ledger.csv', '/due.ics', '/jobs/1/report.pdf', '/jobs/1/job.json'])(
  '%s is a paper: whoever goes there without signal is told so, and stays in Keg',
  (path) => {
    expect(way(path)).toBe('paper')
    expect(way(path, 'cors')).toBe('leave')
  },
)

it.each(['/jobs/1/photos/2', '/api/v1/openapi.json', '/api/v1/calc/fill', '/sign-out', '/healthz'])(
  '%s is made by the server: the worker keeps its hands off',
  (path) => expect(way(path)).toBe('leave'),
)

it('answers nothing that changes something, that a page asks for beside itself, or that goes elsewhere', () => {
  expect(way('/jobs/new', 'navigate', 'POST')).toBe('leave')
  expect(way('/cylinders.data', 'cors')).toBe('leave')
  expect(way('/clocks', 'cors')).toBe('leave')
  expect(way('https://elsewhere.example/assets/a.js', 'no-cors')).toBe('leave')
})
