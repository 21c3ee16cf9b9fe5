import type { NotSent } from './makings'
import { NEVER, sentenceIn } from './sentence'
import { dropPhoto, type Kept, type PhotoAside, type PhotoWaiting, putPhoto } from '../room/waiting-room'

/** Where photos come from and go to. */
interface Around {
  changed: () => void
  /** @returns whether it is kept */
  keep: (work: () => Promise<void>) => Promise<boolean>
  /** Whether the server has all of this job that is older than its photos. */
  ready: (jobId: string) => boolean
  /** The server has it: what it is a photo of can be noted. */
  taken: (photo: PhotoWaiting) => Promise<void>
}

/**
 * The photos that one person took on this device: each is sent once its job is there, and noted once it is there itself. Beside the
 * notes: a large one on a slow line holds up none of them.
 */
export class Photos {
  readonly #userId: string
  readonly #around: Around
  readonly #waiting = new Map<string, PhotoWaiting>()
  readonly #aside = new Map<string, PhotoAside>()
  /** What this page has sent or thrown away: a look at the store that began before does not bring it back. */
  readonly #finished = new Set<string>()
  /** For which there was no room on the device: small notes may still find some. */
  readonly #homeless = new Set<string>()
  #sending = false
  #why: NotSent | undefined

  constructor(userId: string, around: Around) {
    this.#userId = userId
    this.#around = around
  }

  get waiting(): PhotoWaiting[] {
    return [...this.#waiting.values()]
  }

  get aside(): PhotoAside[] {
    return [...this.#aside.values()]
  }

  /** Whether all of them stay when this page is closed. */
  get kept(): boolean {
    return ![...this.#homeless].some((id) => this.#waiting.has(id) || this.#aside.has(id))
  }

  takeUp(kept: Kept['photos']) {
    for (const each of kept)
      if (each.userId !== this.#userId || this.#finished.has(each.photoId)) continue
      else if ('sentence' in each) this.#aside.set(each.photoId, each)
      else if (!this.#aside.has(each.photoId)) this.#waiting.set(each.photoId, each)
  }

  async keepAnew(): Promise<void> {
    for (const kept of [this.#waiting, this.#aside]) for (const each of kept.values()) await putPhoto(each)
    this.#homeless.clear()
  }

  async add(photo: PhotoWaiting): Promise<void> {
    this.#waiting.set(photo.photoId, photo)
    this.#around.changed()
    if (!(await this.#around.keep(() => putPhoto(photo)))) this.#homeless.add(photo.photoId)
    this.#around.changed()
  }

  /** One that was not taken goes on its way once more. */
  async again(photoId: string): Promise<void> {
    const aside = this.#aside.get(photoId)
    if (!aside) return
    const { sentence: _, ...photo } = aside
    this.#aside.delete(photoId)
    await this.add(photo)
  }

  async throwAway(photoId: string): Promise<void> {
    this.#waiting.delete(photoId)
    this.#aside.delete(photoId)
    this.#finished.add(photoId)
    this.#around.changed()
    await this.#around.keep(() => dropPhoto(photoId))
  }

  /** Why something still waits, but for its job. */
  get why(): NotSent | undefined {
    return this.#why
  }

  /** Sends what can be sent; asked while it does so, it goes on. */
  async send(): Promise<void> {
    if (this.#sending) return
    this.#sending = true
    try {
      this.#why = await this.#sendAll()
    } finally {
      this.#sending = false
    }
  }

  /** One that the server cannot take just now holds up no other. */
  async #sendAll(): Promise<NotSent | undefined> {
    const left = new Set<string>()
    for (;;) {
      const photo = this.waiting.find(({ photoId, jobId }) => !left.has(photoId) && this.#around.ready(jobId))
      if (!photo) return left.size > 0 ? 'failing' : undefined
      const answer = await postPhoto(photo)
      // It was thrown away on its way: the server may have a picture, but nothing shows it.
      if (!this.#waiting.has(photo.photoId)) continue
      if (answer === 'failing') left.add(photo.photoId)
      else if (answer === 'taken') await this.#taken(photo)
      else if (typeof answer === 'string') return answer
      else await this.#setAside({ ...photo, sentence: answer.never })
    }
  }

  async #taken(photo: PhotoWaiting) {
    await this.#around.taken(photo)
    this.#waiting.delete(photo.photoId)
    this.#finished.add(photo.photoId)
    await this.#around.keep(() => dropPhoto(photo.photoId))
  }

  async #setAside(aside: PhotoAside) {
    this.#waiting.delete(aside.photoId)
    this.#aside.set(aside.photoId, aside)
    await this.#around.keep(() => putPhoto(aside))
  }
}

async function postPhoto({
  jobId,
  photoId,
  userId,
  jpeg,
}: PhotoWaiting): Promise<'taken' | NotSent | { never: string }> {
  const body = new FormData()
  body.set('photoId', photoId)
  body.set('userId', userId)
  const bytes = Uint8Array.from(atob(jpeg), (byte) => byte.charCodeAt(0))
  body.set('photo', new Blob([bytes], { type: 'image/jpeg' }), 'photo.jpg')
  try {
    const response = await fetch(`/jobs/${jobId}/photos`, { method: 'POST', body })
    if (response.redirected || response.status === 401) return 'signed-out'
    if (response.status === 409) return 'another-person'
    if (response.status === 429) return 'busy'
    if (NEVER.includes(response.status)) return { never: sentenceIn(await response.text()) }
    if (!response.ok) return 'failing'
    const said = (await response.json()) as { photoId?: unknown }
    return said.photoId === photoId ? 'taken' : 'failing'
  } catch {
    // No way to the server, or an answer that was cut off, or is not Keg's: it is sent again.
    return 'lost'
  }
}
