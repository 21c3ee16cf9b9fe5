import { TABLES } from '#core/refrigerants'

/** Where every saturation figure comes from. */
export const TABLE_SOURCE = `Keg’s tables, version ${TABLES.version}: ${TABLES.source}, reference equations of state.`
export const TABLE_ERROR =
  'Against those equations: pressure within 0.001 %, saturation temperature within 0.001 K, densities within 0.05 %.'
