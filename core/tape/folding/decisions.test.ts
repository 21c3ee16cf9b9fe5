import { describe, expect, it } from 'vitest'
import { aCylinderRecord } from '../../../testing/a-cylinder-record'
import { wrote } from '../../../testing/an-entry'
import type { Cylinder } from '../../cylinders'
import {
  decidesOn,
  type DecisionContext,
  type Entry,
  type EntryBodies,
  type EntryKind,
  foldTape,
  refusalsOf,
} from '..'

const entry = <K extends EntryKind>(kind: K, body: EntryBodies[K], at = 1_000_000) => wrote(kind, body, at)
const context = (over: Partial<Cylinder> = {}): DecisionContext => ({
  cylinder: aCylinderRecord(over),
  today: '2026-06-01',
  marginPct: 0,
  customerId: null,
  kit: [],
  busyElsewhere: false,
})
const choose = (massMg: number | null = 1_000_000, use: 'recover' | 'charge' = 'recover') =>
  entry('cylinder-chosen', { cylinderId: 'A', use, massMg })
const start = (use: 'recover' | 'charge') =>
  entry('run-started', { runId: 'r', use, cylinderId: 'A', scale: '', mode: 'gross', weightMg: 0 })
const job = foldTape([entry('job-described', { refrigerant: 'R-410A' }, 0)])
const codes = (e: Entry, c = context(), state = job) => refusalsOf(e, state, c).map((r) => r.code)

describe('decidesOn', () => {
  it('names the cylinder of a choice and of the start of a transfer', () => {
    expect(decidesOn(choose(), 1_000_500)).toEqual({ cylinderId: 'A' })
    expect(decidesOn(start('charge'), 1_000_500)).toEqual({ cylinderId: 'A' })
    expect(decidesOn(start('recover'), 1_000_500)).toEqual({ cylinderId: 'A' })
  })
  it('takes weights and notes for what they are: observations', () => {
    expect(decidesOn(entry('weight-noted', { runId: 'r', weightMg: 1 }), 1_000_500)).toBeUndefined()
    expect(decidesOn(entry('note', { text: 'x' }), 1_000_500)).toBeUndefined()
  })
  it('takes a decision that arrives late for a thing that has happened', () => {
    expect(decidesOn(choose(), 1_000_000 + 119_000)).toEqual({ cylinderId: 'A' })
    expect(decidesOn(choose(), 1_000_000 + 121_000)).toBeUndefined()
  })
})

describe('refusalsOf', () => {
  it('lets a cylinder be chosen in which it fits', () => {
    expect(codes(choose())).toEqual([])
    expect(codes(choose(null))).toEqual([])
  })
  it('refuses with every reason at once', () => {
    expect(codes(choose(20_000_000), context({ testedOn: '2015-01-01', refrigerant: 'R-22' }))).toEqual([
      'other-refrigerant',
      'test-overdue',
      'too-small',
    ])
  })
  it('refuses to charge from what must not go into a system', () => {
    expect(codes(start('charge'))).toEqual([])
    expect(codes(start('charge'), context({ condition: 'doubtful' }))).toEqual(['doubtful-gas'])
    expect(codes(choose(null, 'charge'), context({ balanceMg: 0 }))).toEqual(['empty'])
  })
  it('refuses a second transfer at once on one cylinder, here or on another job', () => {
    const running = foldTape([entry('job-described', { refrigerant: 'R-410A' }, 0), start('recover')])
    expect(codes(start('recover'), context(), running)).toEqual(['in-use'])
    expect(codes(start('recover'), { ...context(), busyElsewhere: true })).toEqual(['in-use'])
    expect(codes(start('recover'))).toEqual([])
  })
  it('cannot judge while nobody has said which refrigerant it is', () => {
    expect(codes(choose(), context({ refrigerant: 'R-22' }), foldTape([]))).toEqual([])
  })
})
