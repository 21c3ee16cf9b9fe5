import type { VerdictBodies } from '#core/tape'
import { OUTCOME_WORDS, VERDICT_WORDS, wordOf } from '../en'
import type { Words } from './say'

export const verdicts: Words<VerdictBodies> = {
  'verdict-given': ({ verdict }) =>
    `${OUTCOME_WORDS[verdict.outcome]}: ${wordOf(VERDICT_WORDS, verdict.code)}`,
  'verdict-overruled': ({ reason }) => `Verdict overruled: ${reason}`,
  correction: ({ body, reason }) =>
    `${body === null ? 'Struck an entry' : 'Corrected an entry'}${reason ? `: ${reason}` : ''}`,
}
