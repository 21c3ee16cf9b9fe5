import type { ChargeBodies } from '#core/tape'
import { TARGET_BASIS_WORDS } from '../en'
import type { Words } from './say'

export const charge: Words<ChargeBodies> = {
  'target-set': ({ massMg, toleranceMg, basis }, { show }) =>
    `Target ${show('weight', massMg)} ± ${show('weight', toleranceMg)}, from ${TARGET_BASIS_WORDS[basis]}`,
  'charge-corrected': ({ way, massMg, reason }, { show }) =>
    `${way === 'out' ? 'Too much in it: take out' : 'Short: add'} ${show('weight', massMg)}${reason ? `, ${reason}` : ''}`,
  'metering-begun': ({ lowPa, nearCompressor }, { show }) =>
    `Metering into suction begins at ${show('pressure', lowPa)}${nearCompressor ? ', port near the compressor' : ''}`,
}
