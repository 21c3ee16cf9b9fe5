import { describe, expect, it } from 'vitest'
import { nearLabels } from '.'

const RACK = ['Gull 14', 'Gull 4', 'Mole 4', 'Buoy 8', 'GULL-41', 'Tern'].map((label) => ({ label }))
const near = (typed: string) => nearLabels(RACK, typed).map(({ label }) => label)

describe('labels like what was typed', () => {
  it.each([
    // Whole number first, then those that have the digit in theirs.
    ['gul 4', ['Gull 4', 'Gull 14', 'GULL-41']],
    ['gull4', ['Gull 4', 'Gull 14', 'GULL-41']],
    ['4', ['Gull 4', 'Mole 4', 'Gull 14', 'GULL-41']],
    ['bouy', ['Buoy 8']],
    ['gll', ['Gull 4', 'Gull 14', 'GULL-41']],
    ['tren', ['Tern']],
    ['heron', []],
  ])('%s', (typed, found) => expect(near(typed)).toEqual(found))
  it('are all of them while nothing is typed', () => expect(near('  ')).toHaveLength(6))
})
