import { pressureTestResult } from '#core/tape'
import { useShow } from '~/ui/reader'
import { dayAndTime } from '~/ui/time'
import { PART_WORDS, PHOTO_WORDS, TESTED_PART_WORDS, VERDICT_WORDS, wordOf } from '~/wording/en'
import { HoldDone } from '../dry/hold'
import { useJob } from '../job-context'

/** The curves of the holds, as read and as fitted. */
export function HoldCurves() {
  const { state, data } = useJob()
  const holds = state.holds.filter((each) => each.endedAt !== undefined)
  const show = useShow()
  const tests = state.pressureTests.filter((each) => each.end)
  if (holds.length === 0 && tests.length === 0) return null
  return (
    <section>
      <h3>Tight and dry</h3>
      {tests.map((test) => (
        <p key={test.testId} className="mb-1">
          Nitrogen on {TESTED_PART_WORDS[test.part].toLowerCase()},{' '}
          {dayAndTime(test.startedAt, data.shop.timeZone)}:{' '}
          {show('pressure', test.pressurePa, test.atmospherePa)} at {show('temperature', test.tempK)}, then{' '}
          {show('pressure', test.end!.pressurePa, test.atmospherePa)} at{' '}
          {show('temperature', test.end!.tempK)}.{' '}
          <strong>{wordOf(VERDICT_WORDS, pressureTestResult(test)!.verdict.code)}.</strong>
        </p>
      ))}
      {holds.map((hold) => (
        <div key={hold.holdId}>
          <p className="mb-1">
            Vacuum hold, {dayAndTime(hold.startedAt, data.shop.timeZone)}: from{' '}
            {show('vacuum', hold.readings[0]!.pressurePa)} to{' '}
            {show('vacuum', hold.readings.at(-1)!.pressurePa)}.
          </p>
          <HoldDone hold={hold} />
        </div>
      ))}
    </section>
  )
}

/** Parts, what stays off, and the photos. */
export function RepairOnPaper() {
  const { state, data } = useJob()
  const show = useShow()
  const off = state.takenOff.filter((each) => each.leftOff !== undefined && each.backAt === undefined)
  const photos = state.photos.filter((each) => each.hidden === undefined)
  if (state.parts.length + off.length + photos.length === 0) return null
  return (
    <section>
      <h3>Repair</h3>
      {state.parts.length > 0 && (
        <ul>
          {state.parts.map((each) => (
            <li key={each.entryId}>
              {PART_WORDS[each.part]} renewed{each.number && `, no. ${each.number}`}
              {each.text && `, ${each.text}`}
              {each.oilMl > 0 && `; oil ${show('volume', each.oilMl)}`}
              {each.chargeMg !== 0 && `; charge ${show('weight', each.chargeMg)} more`}
            </li>
          ))}
        </ul>
      )}
      {off.map((each) => (
        <p key={each.itemId} className="mb-1">
          <strong>Left off:</strong> {each.what}, because {each.leftOff}.
        </p>
      ))}
      {photos.length > 0 && (
        <div className="photos">
          {photos.map((each) => (
            <figure key={each.photoId}>
              <img src={`/jobs/${data.jobId}/photos/${each.photoId}`} alt={PHOTO_WORDS[each.of]} />
              <figcaption>
                {PHOTO_WORDS[each.of]}
                {each.text && `: ${each.text}`}
              </figcaption>
            </figure>
          ))}
        </div>
      )}
    </section>
  )
}
