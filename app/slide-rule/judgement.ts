import type { Verdict } from '#core/verdict'
import { VERDICT_REASONS, VERDICT_WORDS, wordOf } from '~/words/en'
import type { Judgement } from './outcome'

/** A verdict of core in words. @param more reasons that only this tool can give */
export function judgementOf(verdict: Verdict, ...more: string[]): Judgement {
  return {
    outcome: verdict.outcome,
    words: wordOf(VERDICT_WORDS, verdict.code),
    reasons: [...verdict.reasons.map(({ code }) => wordOf(VERDICT_REASONS, code)), ...more],
  }
}
