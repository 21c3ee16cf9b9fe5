import type { RecoveryEndKind } from '#core/recovery'
import type { RecoveryBodies } from '#core/tape'
import { CONDITION_WORDS } from '~/wording/en'
import type { Words } from './words'

const ENDS: Record<RecoveryEndKind, string> = {
  emptied: 'Recovery ended: at level, and stays there',
  'not-emptied': 'Recovery ended before it was empty',
  lost: 'The charge was gone: it has been lost',
  elsewhere: 'The charge was recovered elsewhere',
  'shut-in': 'The charge stays, shut in',
}

export const recovery: Words<RecoveryBodies> = {
  'recovery-ended': ({ how }) => ENDS[how],
  'gas-judged': ({ cylinderId, condition }, { cylinder }) =>
    `Gas in ${cylinder(cylinderId)}: ${CONDITION_WORDS[condition]}`,
}
