import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { aCourse } from '../../../testing/a-course'
import { anEntry } from '../../../testing/an-entry'
import { bookings, checkpointOf, type Entry, foldFrom, foldTape, nextStep, wantsCheckpoint } from '..'

const KG = 1_000_000

/** A long tape: a recovery with many weights, emptied, and a charge with many. */
function longTape(weights = 400): Entry[] {
  const course = aCourse().about('R-410A', 'sys').choose('recover', 'A', 3)
  course.begin('recover', 'A', 0.1)
  const runId = 'run-1'
  for (let i = 0; i < weights; i++)
    course.wait(0.1).write('weight-noted', { runId, weightMg: 20 * KG + Math.round((3 * KG * i) / weights) })
  course
    .write('run-ended', { runId, weightMg: 23 * KG })
    .end('emptied')
    .search(false)
    .vacuum(450)
    .hold(430, 480)
  course.charge('B', 1.5)
  return course.entries.map((entry, i) => ({ ...entry, seq: i + 1, offsetMs: 0 }))
}

const withoutLines = (state: object) => ({ ...state, lines: [] })

describe('a checkpoint', () => {
  it('is there for a long tape only, and leaves the newest two hundred after it', () => {
    expect(checkpointOf(longTape(100))).toBeUndefined()
    const tape = longTape()
    const checkpoint = checkpointOf(tape)!
    expect(tape.length - checkpoint.seq).toBe(200)
    expect(checkpoint.state.lines).toEqual([])
    expect(wantsCheckpoint(249)).toBe(false)
    expect(wantsCheckpoint(250)).toBe(true)
  })
  it('folds on to the state of the whole tape, also through JSON, with what still waits', () => {
    const tape = longTape()
    const kept = JSON.parse(JSON.stringify(checkpointOf(tape))) as NonNullable<
      ReturnType<typeof checkpointOf>
    >
    const waiting = anEntry('note', { text: 'x' }, { at: tape.at(-1)!.at + 1000, deviceSeq: 10_000 })
    for (const more of [[], [waiting]]) {
      const after = [...tape.filter((entry) => entry.seq! > kept.seq), ...more]
      const folded = foldFrom(kept, after)!
      expect(withoutLines(folded)).toEqual(withoutLines(foldTape([...tape, ...more])))
      expect(folded.lines.map((line) => line.entry.entryId)).toEqual(
        foldTape([...tape, ...more])
          .lines.slice(kept.seq)
          .map((line) => line.entry.entryId),
      )
    }
  })
  it('folds on the same wherever the tape is cut, with corrections on both sides', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 300, max: 420 }),
        fc.array(fc.tuple(fc.integer({ min: 3, max: 280 }), fc.integer({ min: 20, max: 24 })), {
          maxLength: 4,
        }),
        (weights, corrections) => {
          const tape = longTape(weights)
          const last = tape.at(-1)!
          corrections.forEach(([index, kg], i) => {
            const entry = tape[index]!
            if (entry.kind !== 'weight-noted') return
            tape.push({
              ...anEntry('correction', {
                entryId: entry.entryId,
                kind: 'weight-noted',
                body: { ...entry.body, weightMg: kg * KG },
                reason: '',
                version: 2,
              }),
              at: last.at + (i + 1) * 1000,
              deviceSeq: tape.length + 1,
              seq: tape.length + 1,
              offsetMs: 0,
            })
          })
          const checkpoint = checkpointOf(tape)!
          const folded = foldFrom(checkpoint, tape.slice(checkpoint.seq))!
          const whole = foldTape(tape)
          expect(withoutLines(folded)).toEqual(withoutLines(whole))
          expect(bookings(folded)).toEqual(bookings(whole))
          expect(nextStep(folded)).toBe(nextStep(whole))
        },
      ),
      { numRuns: 30 },
    )
  })
  it('gives up where something falls before it, corrects what is in it, or another fold made it', () => {
    const tape = longTape()
    const checkpoint = checkpointOf(tape)!
    const after = tape.slice(checkpoint.seq)
    const last = tape.at(-1)!
    const early = anEntry('note', { text: 'x' }, { at: tape[5]!.at, deviceId: 'other', deviceSeq: 1 })
    expect(foldFrom(checkpoint, [...after, early])).toBeUndefined()
    const correction = anEntry(
      'correction',
      { entryId: tape[5]!.entryId, kind: 'weight-noted', body: null, reason: '' },
      { at: last.at + 1, deviceSeq: 10_000 },
    )
    expect(foldFrom(checkpoint, [...after, correction])).toBeUndefined()
    const here = {
      ...correction,
      body: { ...correction.body, entryId: after[3]!.entryId, kind: after[3]!.kind },
    }
    expect(foldFrom(checkpoint, [...after, here as Entry])).toBeDefined()
    expect(foldFrom({ ...checkpoint, foldVersion: 1 }, after)).toBeUndefined()
  })
})
