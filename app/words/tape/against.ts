import type { AgainstBodies } from '#core/tape'
import { AGAINST_WORDS, wordOf } from '../en'
import type { Words } from './say'

export const against: Words<AgainstBodies> = {
  'found-against': ({ codes }) =>
    `Done without signal, and against the books: ${codes.map((code) => wordOf(AGAINST_WORDS, code)).join(' ')}`,
  'against-settled': ({ text }) => `How it was: ${text}`,
}
