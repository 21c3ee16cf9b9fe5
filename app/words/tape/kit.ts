import type { KitBodies } from '#core/tape'
import { KIT_KIND_WORDS, inSentence } from '../en'
import type { Words } from './say'

export const kit: Words<KitBodies> = {
  'kit-used': ({ kind, label }) => `In use: ${label} (${inSentence(KIT_KIND_WORDS[kind])})`,
  'kit-set-aside': (_body) => 'Kit set aside',
  'rig-kept': ({ massMg }, { show }) => `Machine not purged: it keeps about ${show('weight', massMg)}`,
}
