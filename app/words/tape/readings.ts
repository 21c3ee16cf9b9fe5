import type { ReadingsBodies } from '#core/tape'
import { duration } from '~/base/ui/time'
import { PRESSURE_POINT_WORDS, SERVICE_WORDS, STATE_WORDS, TEMPERATURE_POINT_WORDS, inSentence } from '../en'
import type { Words } from './say'

export const readings: Words<ReadingsBodies> = {
  'pressure-noted': ({ point, pressurePa, atmospherePa }, { show }) =>
    `${PRESSURE_POINT_WORDS[point]} ${show('pressure', pressurePa, atmospherePa)}`,
  'temperature-noted': ({ point, tempK }, { show }) =>
    `${TEMPERATURE_POINT_WORDS[point]} ${show('temperature', tempK)}`,
  'system-running': ({ service, beforeS }) =>
    `It runs${beforeS > 0 ? `, for ${duration(beforeS)} already` : ''} (${inSentence(SERVICE_WORDS[service])})`,
  'machine-state': ({ state, is }) => STATE_WORDS[state][is ? 'yes' : 'no'],
  'standing-noted': ({ pressurePa, tempK, atmospherePa }, { show }) =>
    `Off and at rest ${show('pressure', pressurePa, atmospherePa)} at ${show('temperature', tempK)}`,
  'supply-noted': ({ volts, amps }) =>
    `Supply ${[volts !== undefined && `${volts} V`, amps !== undefined && `${amps} A`].filter(Boolean).join(', ')}`,
  'cycle-noted': ({ runS, offS, defrostS, coldestK }, { show }) =>
    `A whole cycle: ran ${duration(runS)}, stood ${duration(offS)}${defrostS ? `, defrosted ${duration(defrostS)}` : ''}${coldestK === undefined ? '' : `, down to ${show('temperature', coldestK)}`}`,
}
