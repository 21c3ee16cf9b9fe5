import { mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { cruise, type ICruiseResult } from 'dependency-cruiser'
import readConfig from 'dependency-cruiser/config-utl/extract-depcruise-config'
import { ESLint } from 'eslint'
import { afterAll, expect, it } from 'vitest'

// The rules of the house are held against code that breaks them: a rule that lets it pass is none.

const eslint = new ESLint()

/** What lint has to say of a file that would stand there. */
async function said(filePath: string, code: string): Promise<string[]> {
  const [result] = await eslint.lintText(`${code}\n`, { filePath })
  return result!.messages.map(({ ruleId }) => ruleId ?? 'not parsed')
}

const FLOOR = 'boundaries/dependencies'
const DOOR = 'no-restricted-imports'

it.each([
  ['core does not know the app', 'core/tape/index.ts', "export * from '../../app/base/ui/measure'", FLOOR],
  ['a subject of core only what it may', 'core/units/mass.ts', "export * from '#core/tape'", FLOOR],
  ['the ground knows no words', 'app/base/ui/fact.tsx', "export * from '~/words/en'", FLOOR],
  ['words no device', 'app/words/en/kit.ts', "export * from '~/device/page/page'", FLOOR],
  ['what screens share no device', 'app/cylinders/tile.ts', "export * from '~/device/page/page'", FLOOR],
  ['the device no job', 'app/device/page/page.ts', "export * from '~/job/field/use-figure'", FLOOR],
  ['the job no page', 'app/job/field/use-figure.ts', "export * from '~/pages/kit/list-data'", FLOOR],
  ['no part of a page a route', 'app/pages/kit/list-data.ts', "export * from '~/routes/kit/list'", FLOOR],
  ['no route another', 'app/routes/kit/list.tsx', "export * from './piece'", DOOR],
  ['by the short name neither', 'app/routes/kit/list.tsx', "export * from '~/routes/kit/piece'", DOOR],
  ['SQL lives in db', 'app/routes/kit/list.tsx', "export * from 'postgres'", DOOR],
  ['a folder is entered by its door', 'app/kit/fields.ts', "export * from '#core/kit/kinds'", DOOR],
  [
    'a room of the tape does so too',
    'core/tape/mass/episodes.ts',
    "export * from '../../recovery/pull'",
    DOOR,
  ],
  ['words too', 'app/kit/fields.ts', "export * from '~/words/en/kit'", DOOR],
])('%s', async (_, file, code, rule) => expect(await said(file, code)).toEqual([rule]))

it.each([
  ['app/job/field/use-figure.ts', "export * from '~/device/page/page'\nexport * from '~/base/ui/measure'"],
  ['app/routes/kit/list.tsx', "export * from '~/pages/kit/list-data'\nexport * from './+types/list'"],
  ['core/tape/mass/episodes.ts', "export * from '../../units'\nexport * from '../envelope/state'"],
])('%s may stand on the floors below', async (file, code) => expect(await said(file, code)).toEqual([]))

const somewhere = await mkdtemp(join(tmpdir(), 'keg-house-'))
afterAll(() => rm(somewhere, { recursive: true }))

/** The circles in a small house made of these files. */
async function circlesIn(files: Record<string, string>): Promise<string[]> {
  for (const [name, code] of Object.entries(files)) {
    await mkdir(dirname(join(somewhere, name)), { recursive: true })
    await writeFile(join(somewhere, name), code)
  }
  const { options, forbidden } = await readConfig(join(import.meta.dirname, '../.dependency-cruiser.mjs'))
  const { output } = await cruise(['app'], {
    ...options,
    baseDir: somewhere,
    ruleSet: { forbidden: forbidden! },
    validate: true,
  })
  return (output as ICruiseResult).summary.violations.map(({ from, rule }) => `${rule.name}: ${from}`)
}

it('two folders that need each other are refused, also by way of a third', async () => {
  const round = await circlesIn({
    'app/a/one.ts': "import { two } from '../b/two'\nexport const one = two",
    'app/b/two.ts': "import { three } from '../c/three'\nexport const two = three",
    'app/c/three.ts': "import { four } from '../a/four'\nexport const three = four",
    'app/a/four.ts': 'export const four = 4',
  })
  expect(round.sort()).toEqual(['a', 'b', 'c'].map((each) => `no-circle-of-folders: app/${each}`))
  const types = await circlesIn({
    'app/c/three.ts': "import type { Four } from '../a/four'\nexport type Three = Four",
  })
  expect(types).toEqual([])
})
