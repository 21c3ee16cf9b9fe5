// That every code has words, the types say; here, that the words are fit to be read.
import { describe, expect, it } from 'vitest'
import { REFRIGERANTS, refrigerant } from '#core/refrigerants'
import { STAGES } from '#core/tape'
import {
  cautionsFor,
  inSentence,
  REASON_WORDS,
  STAGE_OF_NEXT,
  VERDICT_REASONS,
  VERDICT_WORDS,
  wordOf,
} from './'
import { FINDINGS } from './findings'

describe('words', () => {
  it('keep their units and short names within a sentence', () => {
    expect(inSentence('Cold store, about +2 °C')).toBe('cold store, about +2 °C')
    expect(inSentence('UV lamp and dye')).toBe('UV lamp and dye')
  })
  it('are sentences that say what to do', () => {
    for (const words of Object.values(REASON_WORDS)) expect(words).toMatch(/[.]$/)
    for (const words of Object.values(VERDICT_REASONS)) expect(words).toMatch(/[.]$/)
    for (const [words, reason] of Object.values(FINDINGS)) {
      expect(words).not.toMatch(/[.]$/)
      expect(reason).toMatch(/[.]$/)
    }
  })
  it('lead to a stage from every next step', () => {
    for (const stage of Object.values(STAGE_OF_NEXT)) expect(STAGES).toContain(stage)
  })
  it('of a stored code that nobody knows any more are the code itself', () => {
    expect(wordOf(VERDICT_WORDS, 'tight-and-dry')).toBe('It held: tight and dry')
    expect(wordOf(VERDICT_WORDS, 'of-another-time')).toBe('of-another-time')
    expect(wordOf(VERDICT_WORDS, 'constructor')).toBe('constructor')
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
