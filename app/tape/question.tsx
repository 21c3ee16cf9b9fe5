import { Button } from 'react-bootstrap'
import type { AskedWeight } from '#core/tape'
import { useShow } from '~/base/ui/reader'
import { QUESTION_WORDS } from '~/words/en'

interface QuestionProps {
  asked: AskedWeight
  /** Another reading was meant: it is noted. */
  instead: (weightMg: number) => void
  /** It is right. */
  confirm: () => void
  zeroedAgain?: (() => void) | undefined
  withMinus?: (() => void) | undefined
}

/** What cannot be so, or is unlikely, asked in one line and answered in one tap. */
export function Question({ asked, instead, confirm, zeroedAgain, withMinus }: QuestionProps) {
  const show = useShow()
  return (
    <div className="question" role="alert">
      <span className="what">{QUESTION_WORDS[asked.code]}</span>
      {asked.insteadMg.map((weightMg) => (
        <Button key={weightMg} onClick={() => instead(weightMg)}>
          {show('weight', weightMg)}?
        </Button>
      ))}
      {zeroedAgain && (
        <Button variant="outline-primary" onClick={zeroedAgain}>
          Yes: go on from there
        </Button>
      )}
      {withMinus && (
        <Button variant="outline-primary" onClick={withMinus}>
          Yes: with its minus
        </Button>
      )}
      <Button variant="outline-secondary" onClick={confirm}>
        It is right
      </Button>
    </div>
  )
}
