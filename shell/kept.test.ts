// What the worker keeps is what it was built with, to the letter: not what something in between answers in its place.
import { createHash } from 'node:crypto'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { HASH_LENGTH, isFile, isShell, keepFiles } from './kept'

const PORTAL = '<!doctype html><title>Harbour guest network</title>'
const html = (text: string) => new Response(text, { headers: { 'content-type': 'text/html' } })
const script = (text: string) => new Response(text, { headers: { 'content-type': 'text/javascript' } })
const hash = (text: string) => createHash('sha256').update(text).digest('base64url').slice(0, HASH_LENGTH)

function aCache(kept: Record<string, Response> = {}) {
  const store = new Map(Object.entries(kept))
  return {
    match: async (file: string) => store.get(file),
    put: async (file: string, answer: Response) => void store.set(file, answer),
    text: async (file: string) => store.get(file)?.clone().text(),
    size: () => store.size,
  }
}
const never = async () => undefined
afterEach(() => vi.unstubAllGlobals())

describe('the program is kept', () => {
  const files = { '/assets/a-1.js': hash('one'), '/assets/b-2.js': hash('two') }
  const server = (answers: Record<string, () => Response>) => {
    const asked = vi.fn(async (file: string) => answers[file]!())
    vi.stubGlobal('fetch', asked)
    return asked
  }
  const honest = { '/assets/a-1.js': () => script('one'), '/assets/b-2.js': () => script('two') }

  it('as it was built', async () => {
    server(honest)
    const own = aCache()
    await keepFiles(files, own as never, never, 4)
    expect([await own.text('/assets/a-1.js'), await own.text('/assets/b-2.js')]).toEqual(['one', 'two'])
  })
  it.each([
    ['a page with 200', () => html(PORTAL)],
    ['a page that calls itself a script', () => script(PORTAL)],
    ['half of it', () => script('tw')],
    ['nothing', () => new Response('', { status: 504 })],
  ])('not where %s comes for a file: then none of it is used', async (_, answer) => {
    server({ ...honest, '/assets/b-2.js': answer })
    const own = aCache()
    await expect(keepFiles(files, own as never, never, 1)).rejects.toThrow(
      '/assets/b-2.js came as something else',
    )
    expect(await own.text('/assets/b-2.js')).toBeUndefined()
  })
  it('and what was kept wrong before is mended, and not handed on', async () => {
    const asked = server(honest)
    const own = aCache({ '/assets/a-1.js': html(PORTAL) })
    const older = aCache({ '/assets/b-2.js': html(PORTAL) })
    await keepFiles(files, own as never, (file) => older.match(file), 4)
    expect([await own.text('/assets/a-1.js'), await own.text('/assets/b-2.js')]).toEqual(['one', 'two'])
    expect(asked).toHaveBeenCalledTimes(2)
  })
  it('and what is there, here or of another version, is not fetched again', async () => {
    const asked = server(honest)
    const own = aCache({ '/assets/a-1.js': script('one') })
    const older = aCache({ '/assets/b-2.js': script('two') })
    await keepFiles(files, own as never, (file) => older.match(file), 4)
    expect(asked).not.toHaveBeenCalled()
    expect(await own.text('/assets/b-2.js')).toBe('two')
  })
})

it('the shell says itself of which build it is', async () => {
  const shell = (build: string, is = 'yes') =>
    html(`<meta name="keg-build" content="${build}"/><meta name="keg-shell" content="${is}"/>`)
  expect(await isShell(shell('abc'), 'abc')).toBe(true)
  expect(await isShell(shell('abd'), 'abc')).toBe(false)
  expect(await isShell(shell('abc', 'no'), 'abc')).toBe(false)
  expect(await isShell(html(PORTAL), 'abc')).toBe(false)
  expect(await isShell(script('<meta name="keg-build" content="abc">'), 'abc')).toBe(false)
})

it('a file that came by a detour is none', async () => {
  const detour = script('one')
  Object.defineProperty(detour, 'redirected', { value: true })
  expect(await isFile(detour, hash('one'))).toBe(false)
})
