import type { MethodChoice } from '#core/recovery'
import { METHOD_HOW, METHOD_REASONS, METHOD_WORDS } from '~/words/en'

interface MethodProps {
  choice: MethodChoice
  proposed: boolean
  checked: boolean
  disabled: boolean
  choose: () => void
}

/** One way to pull, with what speaks for it and against it. */
export function Method({
  choice: { method, for: speaksFor, against, ruledOut },
  proposed,
  checked,
  disabled,
  choose,
}: MethodProps) {
  return (
    <button
      type="button"
      role="radio"
      aria-checked={checked}
      className="plan-method"
      disabled={disabled || ruledOut}
      onClick={choose}
    >
      <span className="spread">
        <strong>{METHOD_WORDS[method]}</strong>
        {proposed && <span className="tag tag-copper">proposed</span>}
      </span>
      {checked && <span>{METHOD_HOW[method]}</span>}
      <span className="quiet">
        {[
          speaksFor.length > 0 && `For it: ${speaksFor.map((each) => METHOD_REASONS[each]).join('; ')}.`,
          against.length > 0 && `Against: ${against.map((each) => METHOD_REASONS[each]).join('; ')}.`,
        ]
          .filter(Boolean)
          .join(' ')}
      </span>
    </button>
  )
}
