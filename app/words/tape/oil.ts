import type { OilBodies } from '#core/tape'
import { DRIVE_WORDS, OIL_CLEARING_WORDS, inSentence } from '../en'
import type { Words } from './say'

const DIRECTIONS = { out: 'out', parts: 'for replaced parts', in: 'in' }

export const oil: Words<OilBodies> = {
  'oil-noted': ({ direction, volumeMl, text, oil: type, dyed }, { show }) =>
    [`Oil ${DIRECTIONS[direction]} ${show('volume', volumeMl)}`, type, dyed && 'with dye', text]
      .filter(Boolean)
      .join(', '),
  'dye-noted': ({ volumeMl, text }, { show }) => `Dye ${show('volume', volumeMl)}${text ? `, ${text}` : ''}`,
  'drain-read': ({ when, volumeMl }, { show }) =>
    `Drain bottle ${when} the recovery: ${show('volume', volumeMl)}`,
  'drive-noted': ({ drive }) => `Compressor: ${inSentence(DRIVE_WORDS[drive])}`,
  'oil-cleared': ({ how, who }) =>
    `Clear of other oils: ${inSentence(OIL_CLEARING_WORDS[how])}${who ? `, says ${who}` : ''}`,
}
