import { PHOTO_WORDS } from '~/words/en'
import { HoldDone } from '../circuit/dry/hold'
import { useJob } from '../field/job-context'

/** The curves of the holds, as read and as fitted. */
export function HoldCurves() {
  const { state } = useJob()
  return state.holds
    .filter((each) => each.endedAt !== undefined)
    .map((hold) => <HoldDone key={hold.holdId} hold={hold} />)
}

/** Those that nobody has hidden. */
export function Photos() {
  const { state, data } = useJob()
  const photos = state.photos.filter((each) => each.hidden === undefined)
  if (photos.length === 0) return null
  return (
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
  )
}
