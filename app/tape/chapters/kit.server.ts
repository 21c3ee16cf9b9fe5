import { KIT_KINDS } from '#core/kit'
import type { KitBodies } from '#core/tape'
import { kitFacts } from '~/kit/schema'
import { id, massMg, oneOf, type Schemas, words } from './parts.server'

export const kit: Schemas<KitBodies> = {
  'kit-used': {
    kitId: id,
    kind: oneOf(...KIT_KINDS).required(),
    label: words(80).required(),
    facts: kitFacts.required(),
  },
  'kit-set-aside': { kitId: id },
  'rig-kept': { kitId: id, massMg: massMg.min(0).max(5e6).required() },
}
