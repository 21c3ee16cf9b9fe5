import { isComparison, judgeCheck, type KitFacts, READS } from '#core/kit'
import type { ActRow } from '#db'
import type { Refused } from '~/base/form/read.server'
import { type ReadersUnits, show as showIn } from '~/base/ui/measure'
import { useReadersUnits } from '~/base/ui/reader'
import { dayAndTime } from '~/base/ui/time'
import { ACT_WORDS } from '~/words/en'
import { Strike } from './strike'

interface WhatWasDoneProps {
  acts: readonly ActRow[]
  facts: KitFacts
  timeZone: string
  mayWrite: boolean
  refused: Refused | undefined
}

/** Everything that was done with a piece of kit, with what it found. */
export function WhatWasDone({ acts, facts, timeZone, mayWrite, refused }: WhatWasDoneProps) {
  const reading = useReadersUnits()
  return (
    <section className="sheet">
      <h2>What was done</h2>
      {acts.length === 0 && <p className="mb-0 quiet">Nothing has been noted yet.</p>}
      <ul className="plain-list">
        {acts.map((act) => (
          <li key={act.actId}>
            <div className={act.struck === null ? undefined : 'struck'}>
              <span className="digits quiet">{dayAndTime(act.at, timeZone)}</span>{' '}
              <strong>{ACT_WORDS[act.what].name}</strong>{' '}
              {act.passed !== null && (
                <span className={act.passed ? 'tag' : 'tag tag-limit'}>
                  {act.passed ? 'good' : 'not passed'}
                </span>
              )}{' '}
              {actWords(act, facts, reading)} <span className="quiet">{act.by}</span>
            </div>
            {act.struck !== null && <div className="quiet">Struck: {act.struck}</div>}
            {mayWrite && act.struck === null && act.what !== 'purged' && (
              <Strike actId={act.actId} refused={refused} />
            )}
          </li>
        ))}
      </ul>
    </section>
  )
}

/** What an act found, with what it was held against. */
function actWords({ what, body }: ActRow, facts: KitFacts, reading: ReadersUnits): string {
  const parts: string[] = []
  if (isComparison(what) && body.known !== undefined && body.read !== undefined) {
    const words = (value: number) => showIn(READS[what], value, reading)
    const { limit, limitKnown } = judgeCheck(what, facts, { known: body.known, read: body.read })
    const may =
      what === 'scale-check'
        ? `; may be off by ${words(limit)}${limitKnown ? '' : ', which is reckoned with'}`
        : ''
    parts.push(`reads ${words(body.read)}, should be ${words(body.known)}${may}`)
  }
  if (body.hours !== undefined) parts.push(`${body.hours} h`)
  if (body.ml !== undefined) parts.push(showIn('volume', body.ml, reading))
  if (body.massMg !== undefined) parts.push(showIn('weight', body.massMg, reading))
  if (body.how) parts.push(body.how === 'accepted' ? 'weight accepted' : 'weighed again')
  if (body.text) parts.push(body.text)
  return parts.join(', ')
}
