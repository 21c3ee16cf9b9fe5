import type { RetrofitBodies } from '#core/tape'
import type { Words } from './say'

export const retrofit: Words<RetrofitBodies> = {
  'retrofit-planned': () => 'A change to another gas (retrofit)',
  'gas-changed': ({ to, oilType, platePct, reason }) =>
    `From here on it holds ${to}${oilType ? ` with ${oilType}` : ''}${platePct === undefined ? '' : `, ${platePct} % of the plate`}${reason ? `: ${reason}` : ''}`,
}
