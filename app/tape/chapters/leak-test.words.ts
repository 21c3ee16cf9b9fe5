import type { LeakTestBodies } from '#core/tape'
import { LEAK_METHOD_WORDS } from '~/wording/en'
import type { Words } from './words'

export const leakTest: Words<LeakTestBodies> = {
  'leak-checked': ({ method, found, text }) =>
    `${LEAK_METHOD_WORDS[method]}: ${found ? 'leak found' : 'none found'}${text ? `, ${text}` : ''}`,
}
