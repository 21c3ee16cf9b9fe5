import { readdirSync, readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { totalKg } from '../plant'
import { headOf, play, playerOf, readScenario, rowOf } from '.'

const folder = new URL('./scenarios/', import.meta.url)
const files = readdirSync(folder)
const read = (file: string) => readScenario(JSON.parse(readFileSync(new URL(file, folder), 'utf8')))

describe('scenarios that ship', () => {
  it('are some, and each is told in docs/rig.md', () => {
    expect(files.length).toBeGreaterThanOrEqual(10)
    const told = readFileSync(new URL('../../docs/rig.md', import.meta.url), 'utf8')
    for (const file of files) expect(told).toContain(file.replace('.json', ''))
  })
  it.each(files)('%s runs, loses nothing, and gives the same twice', (file) => {
    const scenario = read(file)
    const run = () => {
      const rows: string[] = []
      const before = totalKg(playerOf(scenario).state)
      const state = play(scenario, (each) => rows.push(rowOf(each, scenario).join()))
      expect(Math.abs(totalKg(state) - before)).toBeLessThan(1e-9)
      return rows
    }
    const [first, second] = [run(), run()]
    expect(first.length).toBeGreaterThan(10)
    expect(second).toEqual(first)
    for (const row of first) expect(row.split(',')).toHaveLength(headOf(scenario).length)
    expect(first.join()).not.toContain('NaN')
  })
})

describe('a scenario that cannot be run says where, and what to write', () => {
  it.each<[object | string, string]>([
    ['text', 'the scenario: write an object'],
    [
      { name: 'x', parameters: { system: { volume: 1 } } },
      'parameters.system: "volume" is not known here. Known are volumeM3',
    ],
    [{ name: 'x', parameters: { refrigerant: 'R-999' } }, '"R-999" is not known. Write it like R-410A.'],
    [{ name: 'x', parameters: { ambientK: 'warm' } }, 'parameters.ambientK: write a number'],
    [{ name: 'x', controls: { valve: 'ajar' } }, 'controls.valve: choose one of closed, vapour, liquid.'],
    [{ name: 'x', controls: { fan: 1 } }, 'controls.fan: write a boolean.'],
    [
      { name: 'x', actions: [{ set: {} }] },
      'actions[0]: say when it happens by one of atS, afterS and when.',
    ],
    [{ name: 'x', actions: [{ atS: 1, afterS: 2 }] }, 'actions[0]: say when'],
    [{ name: 'x', actions: [{ when: { quantity: 'toString', below: 1 } }] }, 'choose one of p_sys_Pa'],
    [{ name: 'x', actions: [{ when: { quantity: 'p_sys_Pa' } }] }, 'say either below or above'],
    [{ name: 'x', stepS: 0 }, 'stepS: write a number from 0.01 to 1.'],
    [{ name: 'x', untilS: 1e12 }, 'untilS: write a number'],
    [{ name: 7 }, 'name: write a text.'],
    [{ name: 'x', speed: 3 }, 'the scenario: "speed" is not known here.'],
  ])('%j', (json, message) => {
    expect(() => readScenario(json)).toThrow(message)
  })
})

it('actions happen in their order: at a time, after the one before, when something reads so', () => {
  const player = playerOf(
    readScenario({
      name: 'order',
      controls: { line: 'machine', valve: 'liquid' },
      actions: [
        { atS: 10, set: { machine: 'run' } },
        { when: { quantity: 'm_cyl_kg', above: 1 }, set: { machine: 'off', valve: 'closed' } },
        { afterS: 30, set: { bathK: 283 } },
        { afterS: 0, set: { bathK: null } },
        { afterS: 5, set: {}, stop: true },
      ],
    }),
  )
  const seen: [number, number][] = []
  while (!player.ended()) if (player.advance()) seen.push([player.state.seconds, player.state.cylinder.kg])
  expect(seen).toHaveLength(4)
  // The step that follows the tenth second.
  expect(seen[0]![0]).toBeCloseTo(10.25, 6)
  expect(seen[1]![1]).toBeGreaterThan(1)
  expect(seen[2]![0] - seen[1]![0]).toBeCloseTo(30, 6)
  expect(player.state.controls.bathK).toBeUndefined()
  expect(seen[3]![0] - seen[2]![0]).toBeCloseTo(5, 6)
})
