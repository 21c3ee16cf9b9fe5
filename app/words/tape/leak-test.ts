import type { LeakTestBodies } from '#core/tape'
import { LEAK_METHOD_WORDS, LOOKED_WITH_WORDS, TESTED_PART_WORDS, inSentence } from '../en'
import type { Words } from './say'

export const leakTest: Words<LeakTestBodies> = {
  'leak-checked': ({ method, found, text, falseAlarm }) =>
    `${LEAK_METHOD_WORDS[method]}: ${falseAlarm ? 'false alarm' : found ? 'leak found' : 'none found'}${text ? `, ${text}` : ''}`,
  'pressure-test-started': ({ part, pressurePa, tempK, atmospherePa }, { show }) =>
    `Nitrogen on ${inSentence(TESTED_PART_WORDS[part])}: ${show('pressure', pressurePa, atmospherePa)} at ${show('temperature', tempK)}`,
  'pressure-test-ended': ({ pressurePa, tempK }, { show }) =>
    `Nitrogen hold ended: ${show('pressure', pressurePa)} at ${show('temperature', tempK)}`,
  'place-searched': ({ place, how, found, text }) =>
    `${place}: ${found ? 'leak found' : 'none found'}, ${inSentence(LOOKED_WITH_WORDS[how])}${text ? `, ${text}` : ''}`,
  'recheck-set': ({ on, reason }) => `Look again on ${on}${reason ? `: ${reason}` : ''}`,
}
