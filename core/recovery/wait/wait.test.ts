// What a pressure says after a pull, against the simulated plant, which knows what is left, and by hand.
import { describe, expect, it } from 'vitest'
import { aPlant, until } from '../../../sim/plant/testing'
import { step } from '../../../sim/plant'
import { refrigerant, tableOf } from '../../refrigerants'
import type { At } from '../watch'
import { type AfterPull, judgeWait } from '.'

const ATMOSPHERE_PA = 101_325
const GAUGE_PA = 5_000
const R410A = { table: tableOf('R-410A'), molarMassG: refrigerant('R-410A').molarMassG }

function asked(low: At[], over: Partial<AfterPull> = {}): AfterPull {
  return {
    low,
    nowS: low.at(-1)?.atS ?? 0,
    levelPa: ATMOSPHERE_PA,
    atmospherePa: ATMOSPHERE_PA,
    gaugePa: GAUGE_PA,
    ambientK: 298.15,
    leaking: false,
    chargeKg: 3,
    gas: R410A,
    ...over,
  }
}
const bars = (...of: [atS: number, barG: number][]): At[] =>
  of.map(([atS, barG]) => ({ atS, value: ATMOSPHERE_PA + barG * 1e5 }))
const reasons = (wait: ReturnType<typeof judgeWait>) => wait.verdict.reasons.map(({ code }) => code)

/** The low side of a plant while nothing runs, every second. */
function waited(plant: ReturnType<typeof aPlant>, seconds: number): At[] {
  const { parameters, state } = plant
  state.controls.machine = 'off'
  state.controls.valve = 'closed'
  const low: At[] = [{ atS: 0, value: state.seen.systemPa }]
  for (let atS = 1; atS <= seconds; atS++) {
    for (let i = 0; i < 10; i++) step(parameters, state, 0.1)
    low.push({ atS, value: state.seen.systemPa })
  }
  return low
}

describe('stays down', () => {
  it('is judged from two readings: one says where it stands', () => {
    const one = judgeWait(asked(bars([420, -0.1])))
    expect([one.verdict.code, ...reasons(one)]).toEqual(['wait-too-soon', 'read-it-again'])
    expect(judgeWait(asked(bars([20, -0.1], [420, -0.1]))).verdict.code).toBe('wait-done')
    // What it read as it was stopped is the other one, unless the machine was still on its way down.
    const onItsWay = judgeWait(asked(bars([-100, 2], [420, -0.1])))
    expect([onItsWay.verdict.code, ...reasons(onItsWay)]).toEqual(['wait-too-soon', 'read-it-again'])
    expect(judgeWait(asked(bars([-10, -0.1], [420, -0.1]))).verdict.code).toBe('wait-done')
    expect(judgeWait(asked(bars([420, 0.5]))).verdict.code).toBe('wait-again')
  })
  it('is not said of what goes down after the stop: it was not shut off', () => {
    const falls = judgeWait(asked(bars([20, 0.6], [420, -0.2])))
    expect([falls.verdict.outcome, falls.verdict.code, ...reasons(falls)]).toEqual([
      'open',
      'wait-falls',
      'not-shut-off',
    ])
    // No more than its gauge repeats to.
    expect(judgeWait(asked(bars([20, -0.1], [420, -0.11]))).verdict.code).toBe('wait-done')
  })
})

describe('on the simulated plant', () => {
  it('stopped at 0 psig with the fans off: again, and the next pull brings what was said', () => {
    const plant = aPlant({}, { line: 'machine', machine: 'run', valve: 'liquid' })
    until(plant, (state) => state.seen.systemPa <= ATMOSPHERE_PA)
    const low = waited(plant, 600)
    const early = judgeWait(asked(low.slice(0, 30)))
    const wait = judgeWait(asked(low))
    expect(early.verdict.code === 'wait-too-soon' || early.verdict.code === 'wait-again').toBe(true)
    expect(wait.verdict).toMatchObject({ outcome: 'caution', code: 'wait-again' })
    expect(reasons(wait)).toEqual(['came-back-above-level'])
    const beforeKg = plant.state.cylinder.kg + plant.state.machine.holdupKg
    plant.state.controls.machine = 'run'
    plant.state.controls.valve = 'vapour'
    until(plant, (state) => state.seen.systemPa <= ATMOSPHERE_PA)
    const broughtKg = plant.state.cylinder.kg + plant.state.machine.holdupKg - beforeKg
    // About 50 g, as the model is known to give.
    expect(broughtKg).toBeGreaterThan(wait.nextKg!.least)
    expect(broughtKg).toBeLessThan(wait.nextKg!.most)
  })

  it('pull by pull to the machine’s own stop, fans on: again, then within the level', () => {
    const plant = aPlant({}, { line: 'machine', machine: 'run', valve: 'liquid', fan: true })
    const said: string[] = []
    for (let pull = 0; pull < 3; pull++) {
      plant.state.controls.machine = 'run'
      plant.state.controls.valve = pull === 0 ? 'liquid' : 'vapour'
      plant.state.machine.stoppedItself = false
      until(plant, (state) => state.machine.stoppedItself)
      const wait = judgeWait(asked(waited(plant, 600)))
      said.push(wait.verdict.code)
      // The plant knows: above the level is what stands above it, by more than this gauge can tell.
      const aboveIt = plant.state.seen.systemPa > ATMOSPHERE_PA + GAUGE_PA
      expect(wait.verdict.code === 'wait-again').toBe(aboveIt)
    }
    expect(said[0]).toBe('wait-again')
    expect(['wait-worth-it', 'wait-done']).toContain(said.at(-1))
  })

  it('a hole, below zero: air comes in', () => {
    const plant = aPlant(
      { system: { holeM: 0.4e-3, pocketKg: 0, oilSaturation: 0.1 } },
      { line: 'machine', machine: 'run', valve: 'liquid', fan: true },
    )
    until(plant, (state) => state.seen.systemPa <= ATMOSPHERE_PA - 30_000, 3_600)
    const low = waited(plant, 600)
    expect(low.at(-1)!.value).toBeGreaterThan(low[0]!.value + 5_000)
    expect(judgeWait(asked(low, { leaking: true })).verdict).toMatchObject({
      outcome: 'bad',
      code: 'wait-air',
    })
    // Nobody knows of the leak, and nobody looked how warm it is: it cannot be said.
    expect(reasons(judgeWait(asked(low)))).toContain('gas-or-air')
  })
})

describe('by hand', () => {
  it('what returned is volume times density: 9 to 21 L of R-410A vapour, 0.9 bar more', () => {
    const wait = judgeWait(asked(bars([0, 0], [600, 0.9])))
    // 72.585 g/mol at 25 °C: 0.9e5 x 0.072585 / (8.314 x 298.15) = 2.64 kg/m3 as an ideal gas, a little denser in truth.
    expect(wait.returnedKg!.least).toBeCloseTo(2.7 * 9e-3, 2)
    expect(wait.returnedKg!.most).toBeCloseTo(2.7 * 21e-3, 2)
    expect(wait.nextKg).toEqual({ least: wait.returnedKg!.least, most: 2 * wait.returnedKg!.most })
  })

  it('typed: above the level at once is again, however short the wait', () => {
    expect(judgeWait(asked(bars([0, 0.6]))).verdict.code).toBe('wait-again')
    expect(reasons(judgeWait(asked(bars([0, 0.6]))))).toEqual(['stopped-above-level'])
    expect(reasons(judgeWait(asked(bars([0, 0], [120, 0.3]))))).toEqual(['came-back-above-level'])
  })

  it('within what the gauge can tell is not above: its border', () => {
    expect(judgeWait(asked(bars([0, 0], [600, 0.0499]))).verdict.code).not.toBe('wait-again')
    expect(judgeWait(asked(bars([0, 0], [600, 0.0501]))).verdict.code).toBe('wait-again')
  })

  it('under five minutes nothing is done; from five on what rises is waited for to ten', () => {
    expect(judgeWait(asked(bars([0, -0.3], [299, -0.3]))).verdict.code).toBe('wait-too-soon')
    expect(judgeWait(asked(bars([0, -0.3], [300, -0.3]))).verdict.code).toBe('wait-done')
    // 0.2 bar in 5 minutes: 0.4 in ten, above.
    expect(reasons(judgeWait(asked(bars([0, -0.3], [300, -0.1]))))).toEqual(['will-pass-level'])
    expect(reasons(judgeWait(asked(bars([0, -0.6], [300, -0.5]))))).toEqual(['still-rising'])
  })

  it('nobody has read it since: it is asked for, and nothing is said of it', () => {
    const before = bars([-30, -0.3])
    expect(reasons(judgeWait(asked(before, { nowS: 299 })))).toEqual(['under-five-minutes'])
    expect(reasons(judgeWait(asked(before, { nowS: 1_800 })))).toEqual(['read-it-now'])
  })

  it('ten minutes, within the level: worth it by what it would bring, else done', () => {
    expect(judgeWait(asked(bars([0, -0.6], [600, -0.4]))).verdict.code).toBe('wait-worth-it')
    expect(judgeWait(asked(bars([0, -0.6], [600, -0.6]))).verdict.code).toBe('wait-done')
    // 0.3 kg hold 2 L at the most: 0.025 bar more of it are no gram.
    expect(judgeWait(asked(bars([0, -0.6], [600, -0.57]), { chargeKg: 0.3 })).verdict.code).toBe('wait-done')
  })

  it('warm all over and rising evenly below zero is air; slowing down it may be gas', () => {
    const even = bars([0, -0.6], [150, -0.5], [300, -0.4], [600, -0.2])
    expect(judgeWait(asked(even, { coldestK: 297 })).verdict.code).toBe('wait-air')
    expect(judgeWait(asked(even, { coldestK: 280 })).verdict.code).toBe('wait-worth-it')
    const slowing = bars([0, -0.6], [150, -0.4], [300, -0.3], [600, -0.25])
    expect(judgeWait(asked(slowing, { coldestK: 297 })).verdict.code).not.toBe('wait-air')
  })

  it('without a gauge: by time, and said as such', () => {
    expect(reasons(judgeWait(asked([], { nowS: 300 })))).toEqual(['no-gauge-wait-on'])
    const wait = judgeWait(asked([], { nowS: 600 }))
    expect(wait.verdict).toMatchObject({ outcome: 'open', code: 'wait-by-time' })
    expect(reasons(wait)).toEqual(['no-gauge-by-time'])
  })

  it('a gauge that read low under flow: what stands just after the stop is the start', () => {
    const low = bars([-5, -0.4], [10, 0], [600, 0.02])
    expect(judgeWait(asked(low)).stoppedPa).toBeCloseTo(ATMOSPHERE_PA, 6)
    expect(judgeWait(asked(low)).verdict.code).toBe('wait-done')
  })
})
