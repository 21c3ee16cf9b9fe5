import type { OilLine } from '#db'
import { OIL_PLACE_WORDS } from '~/words/en'

export const whatOf = ({ what, oil }: OilLine) => (what === 'dye' ? 'Dye' : `Oil${oil ? `, ${oil}` : ''}`)

export const placeOf = ({ bottle }: OilLine, place: OilLine['fromPlace']) =>
  place === 'bottle' && bottle ? bottle : OIL_PLACE_WORDS[place]
