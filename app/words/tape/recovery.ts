import type { RecoveryEndKind } from '#core/recovery'
import type { RecoveryBodies } from '#core/tape'
import { CONDITION_WORDS, LEVEL_USE_WORDS, METHOD_WORDS, inSentence } from '../en'
import { duration } from '~/base/ui/time'
import type { Words } from './say'

const ENDS: Record<RecoveryEndKind, string> = {
  emptied: 'Recovery ended: at level',
  'not-emptied': 'Recovery ended before it was empty',
  lost: 'The charge was gone: it has been lost',
  elsewhere: 'The charge was recovered elsewhere',
  'shut-in': 'The charge stays, shut in',
  'never-filled': 'There was none in it: new, or evacuated',
}

export const recovery: Words<RecoveryBodies> = {
  'recovery-ended': ({ how, stoodS }) =>
    how === 'emptied' && stoodS ? `${ENDS.emptied}, and stayed there for ${duration(stoodS)}` : ENDS[how],
  'gas-judged': ({ cylinderId, condition }, { cylinder }) =>
    `Gas in ${cylinder(cylinderId)}: ${CONDITION_WORDS[condition]}`,
  'recovery-planned': ({ method, port, hose, coresOut, level }) =>
    `Plan: ${inSentence(METHOD_WORDS[method])}, ${port} port, ${hose} in hose, cores ${coresOut ? 'out' : 'in'}; ${inSentence(LEVEL_USE_WORDS[level])}`,
  'gas-tested': ({ test, passed, found, purityPct }) =>
    test === 'acid'
      ? `Acid test: ${passed ? 'no acid' : 'acid found'}`
      : `Identifier: ${[passed ? 'pure enough' : 'not pure enough', found, purityPct !== undefined && `${purityPct} %`].filter(Boolean).join(', ')}`,
}
