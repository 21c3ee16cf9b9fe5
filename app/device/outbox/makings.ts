import {
  isAside,
  isRenamed,
  type Made,
  type Making,
  type MakingAside,
  type MakingKept,
  type MakingRenamed,
} from '../room/making'
import { learnMade } from '../pack/keeping'
import { NEVER, sentenceIn } from './sentence'
import { dropMaking, putMaking } from '../room/waiting-room'

/** Why they could not be sent now. */
export type NotSent = 'lost' | 'busy' | 'failing' | 'signed-out' | 'another-person'

/**
 * The cylinders and systems that one person made on this device, sent in order and once each, before the entries that name
 * them.
 */
export class Makings {
  readonly #userId: string
  readonly #waiting = new Map<string, Making>()
  readonly #aside = new Map<string, MakingAside>()
  readonly #renamed = new Map<string, MakingRenamed>()
  readonly #changed: () => void
  readonly #keep: (work: () => Promise<void>) => Promise<unknown>
  #sending: Promise<NotSent | undefined> | undefined

  constructor(userId: string, changed: () => void, keep: (work: () => Promise<void>) => Promise<unknown>) {
    this.#userId = userId
    this.#changed = changed
    this.#keep = keep
  }

  get waiting(): Making[] {
    return [...this.#waiting.values()]
  }

  get aside(): MakingAside[] {
    return [...this.#aside.values()]
  }

  /** Labels by the ids of the cylinders that have another one now. */
  get renamed(): [id: string, label: string][] {
    return [...this.#renamed.values()].map(({ id, renamed }) => [id, renamed])
  }

  takeUp(kept: readonly MakingKept[]) {
    for (const each of kept)
      if (each.userId !== this.#userId) continue
      else if (isAside(each)) this.#aside.set(each.id, each)
      else if (isRenamed(each)) this.#renamed.set(each.id, each)
      else if (!this.#waiting.has(each.id)) this.#waiting.set(each.id, each)
  }

  async keepAnew(): Promise<void> {
    for (const kept of [this.#waiting, this.#aside, this.#renamed])
      for (const each of kept.values()) await putMaking(each)
  }

  async make(making: Making): Promise<void> {
    this.#waiting.set(making.id, making)
    this.#changed()
    await this.#keep(() => putMaking(making))
  }

  async seen(id: string): Promise<void> {
    if (!this.#renamed.delete(id)) return
    this.#changed()
    await this.#keep(() => dropMaking(id))
  }

  /** One that was not taken goes on its way once more, as it is. */
  async again(id: string): Promise<void> {
    const aside = this.#aside.get(id)
    if (!aside) return
    const { sentence: _, ...making } = aside
    this.#aside.delete(id)
    await this.make(making)
  }

  async throwAway(id: string): Promise<void> {
    this.#aside.delete(id)
    this.#changed()
    await this.#keep(() => dropMaking(id))
  }

  /** Sends what waits. @returns undefined once nothing does any more */
  send(): Promise<NotSent | undefined> {
    return (this.#sending ??= this.#sendAll().finally(() => (this.#sending = undefined)))
  }

  /** One that cannot be sent holds up no other: after a batch that was not taken they go one by one. */
  async #sendAll(): Promise<NotSent | undefined> {
    const left = new Set<string>()
    let most = MOST
    for (;;) {
      const next = this.waiting
        .filter(({ id }) => !left.has(id))
        .sort((a, b) => a.at - b.at)
        .slice(0, most)
      if (next.length === 0) return left.size > 0 ? 'failing' : undefined
      const answer = await postMakings(this.#userId, next)
      if (typeof answer === 'string' && answer !== 'failing') return answer
      const known = new Map(madeOf(answer, next).map((each) => [each.id, each]))
      for (const each of next) await this.#became(each, known.get(each.id))
      // An answer about nothing that was sent is none.
      if (next.some(({ id }) => known.has(id))) continue
      if (next.length === 1) left.add(next[0]!.id)
      most = 1
    }
  }

  async #became(making: Making, made: Made | undefined) {
    if (!made) return
    if (made.became === 'refused') {
      const aside = { ...making, sentence: made.sentence }
      this.#aside.set(making.id, aside)
      await this.#keep(() => putMaking(aside))
    } else {
      const renamed = made.became === 'renamed' && { ...making, renamed: made.label }
      await learnMade(this.#userId, making, renamed ? renamed.renamed : undefined)
      if (renamed) this.#renamed.set(making.id, renamed)
      await this.#keep(() => (renamed ? putMaking(renamed) : dropMaking(making.id)))
    }
    this.#waiting.delete(making.id)
    this.#changed()
  }
}

const MOST = 20

/** It is not taken like this, ever: with the server's sentence. */
interface Never {
  never: string
}

/** What became of each: of several none is known to be why they were not taken. */
function madeOf(answer: Made[] | Never | 'failing', sent: readonly Making[]): Made[] {
  if (answer === 'failing') return []
  if (Array.isArray(answer)) return answer
  return sent.length === 1 ? [{ id: sent[0]!.id, became: 'refused', sentence: answer.never }] : []
}

async function postMakings(userId: string, makings: readonly Making[]): Promise<Made[] | Never | NotSent> {
  let response: Response
  try {
    response = await fetch('/made', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({
        userId,
        sentAt: Date.now(),
        makings: makings.map(({ kind, id, typed, units, at }) => ({ kind, id, typed, units, at })),
      }),
    })
  } catch {
    return 'lost'
  }
  if (response.redirected || response.status === 401) return 'signed-out'
  if (response.status === 409) return 'another-person'
  if (response.status === 429) return 'busy'
  try {
    if (NEVER.includes(response.status)) return { never: sentenceIn(await response.text()) }
    if (!response.ok) return 'failing'
    const { made } = (await response.json()) as { made?: unknown }
    return Array.isArray(made) ? (made as Made[]) : 'failing'
  } catch {
    // Cut off in the middle: as if it had not come.
    return 'lost'
  }
}
