// Every code that the program can utter has its words: found in the source itself, so that none is forgotten.
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { REFRIGERANTS, refrigerant } from '#core/refrigerants'
import { judgeOilType, OIL_TYPES } from '#core/oil'
import { roomCheck } from '#core/site'
import { STAGES } from '#core/tape'
import { STEP_WORDS } from '~/tape/entry-words'
import {
  cautionsFor,
  FLAG_WORDS,
  NEXT_WORDS,
  QUANTITY_WORDS,
  REASON_WORDS,
  STAGE_OF_NEXT,
  STAGE_WORDS,
  VERDICT_REASONS,
  VERDICT_WORDS,
} from '.'
import { FINDINGS } from './findings'

const source = (folder: string): string =>
  readdirSync(folder, { recursive: true, encoding: 'utf8' })
    .filter((name) => /\.tsx?$/.test(name) && !name.includes('.test.'))
    .map((name) => readFileSync(join(folder, name), 'utf8'))
    .join('\n')
const all = (text: string, pattern: RegExp) => [...new Set([...text.matchAll(pattern)].map((m) => m[1]!))]

const judges = ['recovery', 'vacuum', 'charging', 'verify', 'leaks', 'oil', 'site']
  .map((folder) => source(`core/${folder}`))
  .join('\n')

describe('words', () => {
  it('of refusals and warnings', () => {
    const codes = [
      ...all(readFileSync('core/cylinders/take.ts', 'utf8'), /code: '([a-z0-9-]+)'/g),
      ...all(readFileSync('core/cylinders/take.ts', 'utf8'), /refuse\('([a-z0-9-]+)'\)/g),
      ...all(readFileSync('core/cylinders/take.ts', 'utf8'), /\? '([a-z-]+)'\s/g),
      ...all(
        source('db') + source('app/tape') + source('app/routes/job'),
        /reasons: \[\{ code: '([a-z-]+)' \}\]/g,
      ),
    ]
    expect(codes.length).toBeGreaterThan(20)
    for (const code of codes) expect(REASON_WORDS, code).toHaveProperty([code])
  })
  it('of verdicts, their reasons and their numbers', () => {
    const codes = [
      ...all(judges, /^\s+code: '([a-z-]+)'/gm),
      ...all(judges, /verdict\('(?:good|caution|bad|open)', '([a-z-]+)'/g),
      ...all(judges, /'(charge-[a-z-]+)'/g).filter((c) =>
        ['charge-on-target', 'charge-short', 'charge-over'].includes(c),
      ),
    ]
    expect(codes.length).toBeGreaterThan(15)
    for (const code of codes) expect(VERDICT_WORDS, code).toHaveProperty([code])
    const reasons = [
      ...all(judges, /\{ code: '([a-z-]+)' \}/g),
      ...all(judges, /verdict\('[a-z]+', '[a-z-]+', '([a-z-]+)'/g),
    ]
    expect(reasons.length).toBeGreaterThan(15)
    for (const reason of reasons) expect(VERDICT_REASONS, reason).toHaveProperty([reason])
    for (const name of all(judges, /name: '([a-z-]+)'/g)) expect(QUANTITY_WORDS, name).toHaveProperty([name])
  })
  it('of the findings of the slide rule, and of none that nothing finds', () => {
    for (const code of Object.keys(FINDINGS)) expect(judges, code).toContain(`'${code}'`)
    for (const oil of OIL_TYPES)
      for (const code of REFRIGERANTS)
        for (const drive of ['belt', 'high-voltage', 'stationary'] as const)
          expect(FINDINGS).toHaveProperty([judgeOilType(oil, code, drive).code])
    for (const code of REFRIGERANTS)
      for (const kg of [0.01, 1, 1000])
        expect(FINDINGS).toHaveProperty([roomCheck(code, kg, 30).verdict.code])
    for (const [words, reason] of Object.values(FINDINGS)) {
      expect(words).not.toMatch(/[.]$/)
      expect(reason).toMatch(/[.]$/)
    }
  })
  it('of flags and steps', () => {
    for (const flag of all(source('core/tape'), /flag\(state, '([a-z-]+)'\)/g))
      expect(FLAG_WORDS, flag).toHaveProperty([flag])
    const lists = all(source('app/routes/job'), /steps=\{\[([^\]]+)\]\}/g).flatMap((list) =>
      all(list, /'([a-z-]+)'/g),
    )
    expect(lists.length).toBeGreaterThan(8)
    for (const step of lists) expect(STEP_WORDS, step).toHaveProperty([step])
  })
  it('of stages and what comes next', () => {
    for (const stage of STAGES) expect(STAGE_WORDS[stage]).toBeTruthy()
    for (const stage of Object.values(STAGE_OF_NEXT)) expect(STAGES).toContain(stage)
    expect(Object.keys(NEXT_WORDS)).toEqual(Object.keys(STAGE_OF_NEXT))
  })
  it('are sentences that say what to do', () => {
    for (const words of Object.values(REASON_WORDS)) expect(words).toMatch(/[.]$/)
    for (const words of Object.values(VERDICT_REASONS)) expect(words).toMatch(/[.]$/)
  })
})

describe('cautionsFor', () => {
  it('puts flammable and toxic first where gas moves', () => {
    expect(cautionsFor('recover', refrigerant('R-290'))[0]).toContain('R-290 is flammable (A3)')
    expect(cautionsFor('recover', refrigerant('R-123'))[0]).toContain('toxic (B1)')
    expect(cautionsFor('recover', refrigerant('R-410A'))[0]).toContain('Gloves and goggles')
    expect(cautionsFor('prepare', refrigerant('R-290')).join()).not.toContain('R-290')
  })
  it('knows every refrigerant', () => {
    for (const code of REFRIGERANTS) {
      const { flammable } = refrigerant(code)
      expect(cautionsFor('charge', refrigerant(code)).some((c) => c.includes('is flammable'))).toBe(flammable)
    }
  })
})
