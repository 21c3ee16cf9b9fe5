import { describe, expect, it } from 'vitest'
import { inSlices } from './in-slices.server'
import { asText } from './pack'

async function whole(pack: Record<string, unknown>) {
  let text = ''
  for await (const slice of inSlices(pack)) text += slice
  return text
}

describe('inSlices', () => {
  const row = (i: number) => ({ label: `C-${i}`, at: new Date(i), gone: undefined, "it's": ['"', { i }] })
  const packs: [string, Record<string, unknown>][] = [
    ['nothing', {}],
    ['nothing but what is not there', { gone: undefined }],
    ['a list of none', { a: [] }],
    [
      'lists to each side of a slice',
      Object.fromEntries(
        [1, 199, 200, 201, 400, 401].map((n) => [`l${n}`, Array.from({ length: n }, (_, i) => row(i))]),
      ),
    ],
    [
      'what is no list',
      { at: new Date(5), 'a"b': 'text', none: null, gone: undefined, number: 3, inner: row(1) },
    ],
    ['lists with holes', { a: [undefined, null, new Date(1), []] }],
  ]
  it.each(packs)('gives what the whole gives: %s', async (_, pack) => {
    expect(await whole(pack)).toBe(asText(pack))
  })
  it('lets others have their turn', async () => {
    let turns = 0
    const counting = setInterval(() => turns++, 0)
    const before = setImmediate(() => turns++)
    await whole({ rows: Array.from({ length: 2_000 }, (_, i) => row(i)) })
    clearInterval(counting)
    clearImmediate(before)
    expect(turns).toBeGreaterThan(0)
  })
})
