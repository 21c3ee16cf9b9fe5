import type { RepairBodies } from '#core/tape'
import { PART_WORDS, PHOTO_WORDS, inSentence } from '../en'
import type { Words } from './say'

export const repair: Words<RepairBodies> = {
  'part-replaced': ({ part, number, text, oilMl, chargeMg }, { show }) =>
    [
      `New: ${inSentence(PART_WORDS[part])}`,
      number && `no. ${number}`,
      text,
      oilMl ? `${show('volume', oilMl)} of oil with it` : '',
      chargeMg ? `charge ${chargeMg > 0 ? '+' : '−'}${show('weight', Math.abs(chargeMg))}` : '',
    ]
      .filter(Boolean)
      .join(', '),
  'taken-off': ({ what }) => `Taken off: ${what}`,
  'put-back': () => 'Back on',
  'left-off': ({ reason }) => `Stays off, because ${reason}`,
  'photo-noted': ({ of, text }) => `Photo, ${inSentence(PHOTO_WORDS[of])}${text ? `: ${text}` : ''}`,
  'photo-hidden': ({ reason }) => `Photo hidden, because ${reason}`,
}
