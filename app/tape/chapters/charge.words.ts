import type { ChargeBodies } from '#core/tape'
import { TARGET_BASIS_WORDS } from '~/wording/en'
import type { Words } from './words'

export const charge: Words<ChargeBodies> = {
  'target-set': ({ massMg, toleranceMg, basis }, { show }) =>
    `Target ${show('weight', massMg)} ± ${show('weight', toleranceMg)}, from ${TARGET_BASIS_WORDS[basis]}`,
}
