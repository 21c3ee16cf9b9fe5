import { useState } from 'react'
import { Button } from 'react-bootstrap'
import { standingVerdict, type VerdictAbout } from '#core/tape'
import { draft } from '~/tape/use-tape'
import { VerdictCard } from '~/ui/verdict-card'
import { useGiveVerdict } from './give-verdict'
import { useJob, useJudging } from './job-context'

/**
 * The last verdict on something, as it was given; a person may overrule it and the tape keeps both. One whose readings
 * have changed since says so, and is judged anew at a tap: never silently.
 */
export function VerdictOf({ about }: { about: VerdictAbout }) {
  const { state, note, closed } = useJob()
  const judging = useJudging()
  const give = useGiveVerdict()
  const [open, setOpen] = useState(false)
  const [reason, setReason] = useState('')
  const given = standingVerdict(state, about, judging)
  if (!given) return null
  const anew = given.stale && !closed ? give(about) : []
  return (
    <VerdictCard verdict={given.verdict} overruled={given.overruled} stale={given.stale}>
      {anew.length > 0 && (
        <div className="mt-1">
          <Button onClick={() => note(anew)}>Judge it anew</Button>
        </div>
      )}
      {!closed && given.overruled === undefined && !open && (
        <Button variant="link" className="p-0" onClick={() => setOpen(true)}>
          I judge it otherwise …
        </Button>
      )}
      {open && (
        <form
          className="row-of"
          onSubmit={(event) => {
            event.preventDefault()
            if (reason.trim() === '') return
            note([draft('verdict-overruled', { entryId: given.entryId, reason: reason.trim() })])
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
      )}
    </VerdictCard>
  )
}
