// ./keg rig SCENARIO.json: runs a scenario and prints its course as CSV.
import { readFileSync } from 'node:fs'
import { resolve } from 'node:path'
import Papa from 'papaparse'
import { headOf, play, readScenario, rowOf, ScenarioError } from '../sim/scenario'

const file = process.argv[2]
try {
  if (!file) throw new ScenarioError('Name a scenario: ./keg rig sim/scenario/scenarios/recover-by-core.json')
  const scenario = readScenario(JSON.parse(readFileSync(resolve(process.env.KEG_FROM ?? '.', file), 'utf8')))
  const rows = [headOf(scenario)]
  play(scenario, (state) => rows.push(rowOf(state, scenario)))
  process.stdout.write(`${Papa.unparse(rows, { newline: '\n' })}\n`)
} catch (error) {
  const known =
    error instanceof ScenarioError || error instanceof SyntaxError || (error as { code?: string }).code
  if (!known) throw error
  const message =
    (error as { code?: string }).code === 'ENOENT' ? 'there is no such file.' : (error as Error).message
  console.error(`${file ?? 'rig'}: ${message}`)
  process.exitCode = 1
}
