import { setImmediate as turn } from 'node:timers/promises'
import { asText } from './pack'

/** A list is put into words so many at a time: a few milliseconds. */
const AT_ONCE = 200

/** A pack as text, a piece at a time, with everybody else's turn between two. Together they are what `asText` gives. */
export async function* inSlices(pack: Record<string, unknown>): AsyncGenerator<string> {
  let before = '{'
  for (const [field, value] of Object.entries(pack)) {
    if (value === undefined) continue
    yield `${before}${JSON.stringify(field)}:`
    if (Array.isArray(value)) yield* listInSlices(value)
    else yield asText(value)
    before = ','
  }
  yield before === '{' ? '{}' : '}'
}

async function* listInSlices(list: readonly unknown[]): AsyncGenerator<string> {
  for (let i = 0; i < list.length; i += AT_ONCE) {
    const inside = asText(list.slice(i, i + AT_ONCE)).slice(1, -1)
    yield `${i === 0 ? '[' : ','}${inside}`
    await turn()
  }
  yield list.length === 0 ? '[]' : ']'
}
