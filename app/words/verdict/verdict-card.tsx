import type { ReactNode } from 'react'
import type { Verdict } from '#core/verdict'
import { useReadersUnits } from '~/base/ui/reader'
import { limitedByWords, OUTCOME_WORDS, QUANTITY_WORDS, VERDICT_WORDS, wordOf } from '../en'
import { quantityText, reasonText, ruleText } from './said'

interface VerdictCardProps {
  verdict: Verdict
  overruled?: string | undefined
  /** What it was built on has changed since. */
  stale?: boolean
  /** It rests on a weight that is in doubt. */
  doubted?: boolean
  /** What was said before, where this is what would be said now. */
  before?: { heading: string; when: string }
  children?: ReactNode
}

/** A judgement with its reasons, its numbers and where it comes from. */
export function VerdictCard({
  verdict,
  overruled,
  stale = false,
  doubted = false,
  before,
  children,
}: VerdictCardProps) {
  const reading = useReadersUnits()
  return (
    <div className={`verdict verdict-${stale ? 'open' : verdict.outcome}`}>
      {stale ? (
        <p className="mb-1 field-error" role="status">
          <strong>Stale:</strong> what it was built on has been changed since. Nothing builds on it any more.
        </p>
      ) : (
        <div className="quiet">{OUTCOME_WORDS[verdict.outcome]}</div>
      )}
      {before && (
        <p className="mb-1 field-error" role="status">
          What it was built on has changed. At {before.when} it said: <em>{before.heading}</em>
        </p>
      )}
      <h3 className={stale ? 'struck' : undefined}>{wordOf(VERDICT_WORDS, verdict.code)}</h3>
      <ul>
        {verdict.reasons.map((reason) => (
          <li key={reason.code}>{reasonText(reason, reading)}</li>
        ))}
      </ul>
      <div className="numbers">
        {verdict.numbers.map((quantity) => (
          <span key={quantity.name}>
            <span className="quiet">{wordOf(QUANTITY_WORDS, quantity.name)}</span>{' '}
            <strong className="digits">{quantityText(quantity, reading)}</strong>
          </span>
        ))}
      </div>
      {doubted && (
        <p className="mb-1 field-error" role="status">
          Caution: it rests on a scale that failed its check since, and nobody has decided yet.
        </p>
      )}
      {verdict.limitedBy && (
        <p className="mb-1 quiet">What limits it: {limitedByWords(verdict.limitedBy)}.</p>
      )}
      <details className="quiet">
        <summary>How this was judged</summary>
        {ruleText(verdict.rule, reading)}. Plus-minus is two standard deviations.
      </details>
      {overruled !== undefined && (
        <p className="mb-0 mt-1">
          <strong>Overruled:</strong> {overruled}
        </p>
      )}
      {children}
    </div>
  )
}
