import { useState } from 'react'
import { Button } from 'react-bootstrap'
import { judgeNow, standingVerdict, type VerdictAbout } from '#core/tape'
import { draft } from '~/tape/draft'
import { clockTime } from '~/base/ui/time'
import { VerdictCard } from '~/words/verdict/verdict-card'
import { VERDICT_WORDS, wordOf } from '~/words/en'
import { useGiveVerdict } from './give-verdict'
import { useJob, useJudging } from '../field/job-context'
import { Explained, PlateField } from './verdict-plate'
import { FromExpected } from './waterfall'

/**
 * The verdict on something as it stands in front of the person: what it says now, and what it said where that was
 * something else. The tape gets the new one at a tap, never silently; a person may overrule it, and the tape keeps both.
 */
export function VerdictOf({ about }: { about: VerdictAbout }) {
  const { state, data, note, closed } = useJob()
  const judging = useJudging()
  const give = useGiveVerdict()
  const given = standingVerdict(state, about, judging)
  const now = judgeNow(state, about, judging)
  const anew = closed ? [] : give(about)
  // Ended from another screen: it is judged here.
  if (!given && about === 'hold' && now)
    return (
      <VerdictCard verdict={now}>
        {anew.length > 0 && (
          <div className="mt-1">
            <Button onClick={() => note(anew)}>Note the verdict</Button>
          </div>
        )}
      </VerdictCard>
    )
  if (!given) return null
  const changed = given.stale && now !== undefined
  const shown = changed ? now : given.verdict
  return (
    <VerdictCard
      verdict={shown}
      overruled={given.overruled}
      doubted={data.doubts.length > 0 && (about === 'recovery' || about === 'charge')}
      stale={given.stale && !changed}
      {...(changed && {
        before: {
          heading: wordOf(VERDICT_WORDS, given.verdict.code),
          when: clockTime(given.at, data.shop.timeZone),
        },
      })}
    >
      {about === 'recovery' && <FromExpected verdict={shown} />}
      {about === 'recovery' && <Explained verdict={shown} />}
      {about === 'recovery' && <PlateField />}
      {anew.length > 0 && (changed || given.overruled !== undefined) && (
        <div className="mt-1">
          <Button onClick={() => note(anew)}>{changed ? 'Note what it says now' : 'Judge it again'}</Button>
        </div>
      )}
      {!closed && given.overruled === undefined && <Overrule entryId={given.entryId} />}
    </VerdictCard>
  )
}

function Overrule({ entryId }: { entryId: string }) {
  const { note } = useJob()
  const [open, setOpen] = useState(false)
  const [reason, setReason] = useState('')
  if (!open)
    return (
      <Button variant="link" className="p-0" onClick={() => setOpen(true)}>
        I judge it otherwise …
      </Button>
    )
  return (
    <form
      className="row-of"
      onSubmit={(event) => {
        event.preventDefault()
        if (reason.trim() === '') return
        note([draft('verdict-overruled', { entryId, reason: reason.trim() })])
        setOpen(false)
      }}
    >
      <input
        className="form-control"
        style={{ flex: 1 }}
        aria-label="How do you judge it, and why?"
        placeholder="How do you judge it, and why?"
        value={reason}
        maxLength={1000}
        autoFocus
        onChange={(event) => setReason(event.target.value)}
      />
      <Button type="submit">Overrule</Button>
    </form>
  )
}
