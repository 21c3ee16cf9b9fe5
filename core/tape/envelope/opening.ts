import type { Part } from '../chapters/repair'

/** Parts that gas goes through: the others are changed with the circuit shut. */
export const OPENING_PARTS: readonly Part[] = [
  'compressor',
  'drier',
  'valve',
  'evaporator',
  'condenser',
  'accumulator',
  'hose',
  'seal',
]
/** Steps that nobody can do with the circuit shut. */
export const OPENING_STEPS: readonly string[] = ['repair-drier', 'repair-nitrogen', 'repair-opened']
