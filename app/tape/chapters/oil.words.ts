import type { OilBodies } from '#core/tape'
import type { Words } from './words'

const DIRECTIONS = { out: 'out', parts: 'for replaced parts', in: 'in' }

export const oil: Words<OilBodies> = {
  'oil-noted': ({ direction, volumeMl, text }, { show }) =>
    `Oil ${DIRECTIONS[direction]} ${show('volume', volumeMl)}${text ? `, ${text}` : ''}`,
}
