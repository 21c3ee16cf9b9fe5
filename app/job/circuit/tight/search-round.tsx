import { useState } from 'react'
import { Button } from 'react-bootstrap'
import { placesOf } from '#core/leaks'
import { LOOKED_WITH, type LookedWith } from '#core/tape'
import { draft } from '~/tape/draft'
import { clockTime } from '~/base/ui/time'
import { LOOKED_WITH_WORDS, PLACE_WORDS_OF_LEAKS, inSentence } from '~/words/en'
import { useJob } from '~/job/field/job-context'

/** Place by place in the order of likelihood: looked at with what, and found or not. */
export function SearchRound() {
  const { data, state, note, closed } = useJob()
  const [how, setHow] = useState<LookedWith>('detector')
  const since = Math.max(0, ...state.steps.filter(({ step }) => step === 'repair-done').map(({ at }) => at))
  const round = state.searched.filter((each) => each.at >= since)
  const places = placesOf(data.system?.trade ?? 'stationary')
  const looked = (place: string) => round.findLast((each) => each.place === place)
  const say = (place: string, found: boolean) =>
    note([draft('place-searched', { place, how, found, text: '' })])
  const done = places.filter((each) => looked(PLACE_WORDS_OF_LEAKS[each])).length
  return (
    <section className="stack" aria-label="Search round" style={{ gap: '0.75rem' }}>
      <div className="spread">
        <h3 className="mb-0">Search, place by place</h3>
        <span className="quiet">
          {done} of {places.length} looked at
        </span>
      </div>
      {!closed && (
        <div className="tap-row" role="group" aria-label="Looked at with">
          {LOOKED_WITH.map((each) => (
            <Button
              key={each}
              variant={each === how ? 'primary' : 'outline-primary'}
              aria-pressed={each === how}
              onClick={() => setHow(each)}
            >
              {LOOKED_WITH_WORDS[each]}
            </Button>
          ))}
        </div>
      )}
      {HOW[how] && <p className="quiet mb-0">{HOW[how]}</p>}
      <ul className="search-places">
        {places.map((each) => {
          const place = PLACE_WORDS_OF_LEAKS[each]
          const last = looked(place)
          return (
            <li key={each} className={last?.found ? 'found' : ''}>
              <span>
                {place}{' '}
                {last && (
                  <span className="quiet">
                    {last.found ? <strong>leak found</strong> : 'none found'},{' '}
                    {inSentence(LOOKED_WITH_WORDS[last.how])}, {clockTime(last.at, data.shop.timeZone)}
                  </span>
                )}
              </span>
              {!closed && (
                <span className="row-of">
                  <Button
                    variant="outline-secondary"
                    aria-label={`${place}: none found`}
                    onClick={() => say(place, false)}
                  >
                    None
                  </Button>
                  <Button
                    variant="outline-danger"
                    aria-label={`${place}: leak found`}
                    onClick={() => say(place, true)}
                  >
                    Leak
                  </Button>
                </span>
              )}
            </li>
          )
        })}
      </ul>
      {round.some((each) => each.found) && (
        <p className="mb-0">
          <strong>Repair it, then test again:</strong> one leak found is no word on a second.
        </p>
      )}
    </section>
  )
}

const HOW: Record<LookedWith, string> = {
  detector:
    'Calibrate it in clean air, then slowly, below and around each place. Couplers that were just taken off, solvents and brake dust call falsely: wipe, wait, look again.',
  bubbles: 'With pressure on it. Fine leaks make froth after a minute, large ones blow it away.',
  dye: 'UV lamp and yellow glasses, in the shade. Wipe old dye off, or it is found again next year.',
  stain: 'Oil with dirt on it marks an old leak; clean it, so that a new one shows.',
  ear: 'With nitrogen on it and the fans off.',
}
