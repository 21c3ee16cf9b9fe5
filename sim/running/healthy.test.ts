import { describe, expect, it } from 'vitest'
import { HEALTHY_KINDS, healthyJudged, type HealthyKind, INSTRUMENTS, SAID_OF } from '.'

const SEEDS = Array.from({ length: 100 }, (_, seed) => seed)
const BY = Object.keys(INSTRUMENTS) as (keyof typeof INSTRUMENTS)[]
const accuses = (kind: HealthyKind, seed: number, by: (typeof BY)[number], said = false) => {
  const state = said ? SAID_OF[kind] : undefined
  const outcome = healthyJudged(kind, seed, by, state ? { [state]: true } : {})?.verdict.outcome
  return outcome === 'caution' || outcome === 'bad'
}

describe.each(HEALTHY_KINDS)('a healthy machine: %s', (kind) => {
  it('is not accused, asked or not, with ordinary and with good instruments', () => {
    for (const by of BY)
      for (const said of [false, true])
        // Under one in a hundred: none of these.
        expect(SEEDS.filter((seed) => accuses(kind, seed, by, said))).toEqual([])
  })
})

it('where it decides it is asked, and once it is said a healthy machine is as it should be', () => {
  const of = (kind: HealthyKind, states: object) =>
    SEEDS.map((seed) => healthyJudged(kind, seed, 'good', states)!.verdict)
  const asked = of('store in winter, fans hold the head', {})
  expect(
    asked.filter(({ reasons }) => reasons.some(({ code }) => code === 'check-head-held')).length,
  ).toBeGreaterThan(80)
  for (const kind of HEALTHY_KINDS) {
    const state = SAID_OF[kind]
    if (!state) continue
    const right = [`pattern-${state}`, 'pattern-all-right', 'pattern-in-range']
    const said = of(kind, { [state]: true })
    expect(said.filter(({ code }) => right.includes(code)).length, kind).toBeGreaterThan(75)
  }
})
