import type { ReadingsBodies } from '#core/tape'
import { PRESSURE_POINT_WORDS, TEMPERATURE_POINT_WORDS } from '~/wording/en'
import type { Words } from './words'

export const readings: Words<ReadingsBodies> = {
  'pressure-noted': ({ point, pressurePa, atmospherePa }, { show }) =>
    `${PRESSURE_POINT_WORDS[point]} ${show('pressure', pressurePa, atmospherePa)}`,
  'temperature-noted': ({ point, tempK }, { show }) =>
    `${TEMPERATURE_POINT_WORDS[point]} ${show('temperature', tempK)}`,
}
