import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect, it } from 'vitest'
import type { Entry } from '../envelope/entry'
import { FOLD_VERSION, foldTape } from './fold'

const TAPES = join(import.meta.dirname, '../old-tapes')

/** Records of the state whose keys are ids: of entries, cylinders, devices. */
const BY_ID = [
  '.acknowledged',
  '.clocks',
  '.earlyCurves',
  '.earlyItems',
  '.earlyTestEnds',
  '.earlyWatchEnds',
  '.gas',
  '.hiddenEarly',
  '.overruledEarly',
]

/** Every place in a state with what may stand there: a list, and a record by id, as one place each. */
function placesIn(value: unknown, place: string, found: Set<string>) {
  if (value === null || typeof value !== 'object')
    return found.add(`${place}: ${value === null ? null : typeof value}`)
  if (Array.isArray(value)) for (const each of value) placesIn(each, `${place}[]`, found)
  else
    for (const [key, each] of Object.entries(value))
      placesIn(each, `${place}.${BY_ID.includes(place) ? '*' : key}`, found)
  return found
}

/** The state of a job as all old tapes fold to it; its lines are the entries themselves. */
function shapeNow(): string[] {
  const found = new Set<string>()
  for (const name of readdirSync(TAPES).filter((each) => each.endsWith('.json'))) {
    const { lines: _, ...state } = foldTape(JSON.parse(readFileSync(join(TAPES, name), 'utf8')) as Entry[])
    placesIn(state, '', found)
  }
  return [...found].sort()
}

it('the state is shaped as its version says: whoever changes its shape raises FOLD_VERSION', async () => {
  // Kept by version: a new one is written by the first run, and the old one goes.
  await expect(`${shapeNow().join('\n')}\n`).toMatchFileSnapshot(`shape-of-${FOLD_VERSION}.txt`)
})
