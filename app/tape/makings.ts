import {
  isAside,
  isRenamed,
  type Made,
  type Making,
  type MakingAside,
  type MakingKept,
  type MakingRenamed,
} from '~/offline/making'
import { learnMade } from '~/offline/keeping'
import { dropMaking, putMaking } from './waiting-room'

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
  readonly #keep: (work: () => Promise<void>) => Promise<void>
  #sending: Promise<NotSent | undefined> | undefined

  constructor(userId: string, changed: () => void, keep: (work: () => Promise<void>) => Promise<void>) {
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

  async throwAway(id: string): Promise<void> {
    this.#aside.delete(id)
    this.#changed()
    await this.#keep(() => dropMaking(id))
  }

  /** Sends what waits. @returns undefined once nothing does any more */
  send(): Promise<NotSent | undefined> {
    return (this.#sending ??= this.#sendAll().finally(() => (this.#sending = undefined)))
  }

  async #sendAll(): Promise<NotSent | undefined> {
    while (this.#waiting.size > 0) {
      const next = this.waiting.sort((a, b) => a.at - b.at).slice(0, MOST)
      const answer = await postMakings(this.#userId, next)
      if (typeof answer === 'string') return answer
      const known = new Map(answer.map((each) => [each.id, each]))
      // An answer about nothing that was sent is none.
      if (!next.some(({ id }) => known.has(id))) return 'failing'
      for (const each of next) await this.#became(each, known.get(each.id))
    }
    return undefined
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

async function postMakings(userId: string, makings: readonly Making[]): Promise<Made[] | NotSent> {
  let response: Response
  try {
    response = await fetch('/made', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({
        userId,
        makings: makings.map(({ kind, id, typed, units, at }) => ({ kind, id, typed, units, at })),
      }),
    })
  } catch {
    return 'lost'
  }
  if (response.redirected || response.status === 401) return 'signed-out'
  if (response.status === 409) return 'another-person'
  if (response.status === 429) return 'busy'
  if (!response.ok) return 'failing'
  try {
    const { made } = (await response.json()) as { made?: unknown }
    return Array.isArray(made) ? (made as Made[]) : 'failing'
  } catch {
    // Cut off in the middle: as if it had not come.
    return 'lost'
  }
}
