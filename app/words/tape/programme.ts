import type { ProgrammeBodies } from '#core/tape'
import { ASK_WORDS, STEP_WORDS, STOP_WORDS, inSentence } from '../en'
import type { Words } from './say'

export const programme: Words<ProgrammeBodies> = {
  'programme-begun': ({ steps, preset }) =>
    `Programme begun${preset ? `, ${preset}` : ''}: ${steps.map((each) => inSentence(STEP_WORDS[each.step])).join(', ')}`,
  'programme-step': ({ step, phase }) =>
    `${STEP_WORDS[step]}: ${phase === 'began' ? 'the station begins' : 'the station is done'}`,
  'hand-asked': ({ ask }) => `The station asks: ${ASK_WORDS[ask].what}`,
  'hand-given': ({ answer }) => (answer === 'done' ? 'Answered: done' : 'Answered: no, the station stops'),
  'programme-ended': ({ how, why, step }) =>
    how === 'finished'
      ? 'Programme finished'
      : how === 'left-alone'
        ? 'Programme given up: the station is left alone'
        : [
            `Programme stopped${step ? ` at ${inSentence(STEP_WORDS[step])}` : ''}`,
            why && STOP_WORDS[why].says,
          ]
            .filter(Boolean)
            .join(': '),
}
