import type { Entry } from '#core/tape'
import type { Reason } from '#core/verdict'
import { madeNow } from '~/tape/made-now'

/** What became of a batch that was sent. */
export type Answer =
  | { kind: 'taken'; entries: Entry[]; refused: { entryId: string; reasons: Reason[] }[] }
  /** It will never be taken like this. */
  | { kind: 'never'; code: string }
  /** Nothing is known of it: it is sent again. */
  | { kind: 'later'; why: 'lost' | 'busy' | 'failing'; afterMs?: number }
  /** Nothing of this person's can be sent from here now. */
  | { kind: 'stop'; why: 'signed-out' | 'another-person' }

const NEVER: Record<number, string> = {
  400: 'malformed',
  403: 'not-allowed',
  404: 'no-job',
  413: 'too-large',
  422: 'malformed',
}

/** Sends entries in the name of whoever wrote them. @param unheard ids of those that were made when no answer came */
export async function post(
  jobId: string,
  userId: string,
  entries: Entry[],
  unheard: string[],
): Promise<Answer> {
  let response: Response
  try {
    response = await fetch(`/jobs/${jobId}/tape`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ userId, entries, unheard, sentAt: Date.now(), made: madeNow() }),
    })
  } catch {
    // The browser found no way to the server: that is what the outbox is for.
    return { kind: 'later', why: 'lost' }
  }
  const { status } = response
  if (response.redirected || status === 401) return { kind: 'stop', why: 'signed-out' }
  if (status === 409) return { kind: 'stop', why: 'another-person' }
  if (NEVER[status]) return { kind: 'never', code: NEVER[status] }
  if (status === 429)
    return { kind: 'later', why: 'busy', afterMs: 1000 * Number(response.headers.get('retry-after') || 30) }
  if (!response.ok) return { kind: 'later', why: 'failing' }
  return answerIn(response)
}

/** An answer that was cut off in the middle, or that is not Keg's, says nothing. */
async function answerIn(response: Response): Promise<Answer> {
  try {
    const { entries, refused } = (await response.json()) as Partial<Answer & { kind: 'taken' }>
    if (Array.isArray(entries) && Array.isArray(refused)) return { kind: 'taken', entries, refused }
  } catch {
    // As if it had not come.
  }
  return { kind: 'later', why: 'lost' }
}
