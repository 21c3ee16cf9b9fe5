/**
 * Below this share of the named gas a vehicle's charge is not taken into a clean tank, percent: what identifiers of the
 * trade are set to. A default to be checked against the text in force.
 */
export const PURITY_PCT = 98
