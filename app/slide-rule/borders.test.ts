// At the borders of every table: a sentence on a field of the tool, never a crash.
import { describe, expect, it } from 'vitest'
import { REFRIGERANTS } from '#core/refrigerants'
import { METRIC_UNITS } from '#core/units'
import { slots } from './fields'
import { workOut } from './work-out'
import { TOOLS } from './tools'

const surroundings = {
  reading: { units: METRIC_UNITS },
  today: '2026-11-25',
  cylinders: [],
  fillMarginPct: 0,
}
const TEMPERATURES = [-90, -60, -56, -54, -40, -20, 0, 20, 27, 28, 29, 31, 40, 55, 70, 72, 90, 110, 200]
const PRESSURES = [
  '-0.95 bar',
  '-0.5 bar',
  '0 bar',
  '2 bar',
  '12 bar',
  '38 bar',
  '60 bar',
  '68 bar',
  '75 bar',
  '130 bar',
]

describe.each(TOOLS.map((tool) => [tool.name, tool] as const))(
  '%s at the borders of the tables',
  (_name, tool) => {
    const all = slots(tool.inputs)
    const gases = all.filter(({ field }) => field.type === 'gas').map(({ name }) => name)
    const temperatures = all.filter(({ field }) => field.kind === 'temperature').map(({ name }) => name)
    const pressures = all.filter(({ field }) => field.kind === 'pressure').map(({ name }) => name)

    it('answers, or puts a sentence on one of its fields', () => {
      const names = new Set(all.map(({ name }) => name))
      const ask = (given: Record<string, string>) => {
        const { outcome, errors, missing } = workOut(
          tool,
          new URLSearchParams({ ...tool.example, ...given }),
          surroundings,
        )
        const what = JSON.stringify(given)
        if (outcome) for (const { value } of outcome.figures) expect(Number.isFinite(value), what).toBe(true)
        else expect(Object.keys(errors).length + missing.length, what).toBeGreaterThan(0)
        for (const [name, sentence] of Object.entries(errors)) {
          expect(names.has(name), `${what}: ${name}`).toBe(true)
          expect(sentence, what).toMatch(/^\S.*[.!?]$/s)
        }
      }
      if (gases.length === 0) return ask({})
      for (const gas of REFRIGERANTS) {
        const given = Object.fromEntries(gases.map((name) => [name, gas]))
        ask(given)
        for (const name of temperatures) for (const t of TEMPERATURES) ask({ ...given, [name]: `${t} C` })
        for (const name of pressures) for (const p of PRESSURES) ask({ ...given, [name]: p })
      }
    })
  },
)
