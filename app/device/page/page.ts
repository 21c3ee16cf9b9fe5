import { isRouteErrorResponse } from 'react-router'
import type { Device, Unsent } from '../known/device'
import { learn, packOf } from '../pack/keeping'
import { isUnsentMaking, type Making } from '../room/making'
import { currentOutbox } from './current'
import { wordsKept } from '../room/waiting-room'
import { whoIsHere } from '../who/who'

/** A server that has not answered by then: the page opens from the device, and is brought up to date in place. */
export const SLOW_MS = 300

interface Load<T, P> {
  request: Request
  params: P
  serverLoader: () => Promise<T>
}

/** What a page is made of on this device. */
export interface Wish<P> {
  params: P
  search: URLSearchParams
  /** This device's time, ms. */
  at: number
  /** The server says that there is no such thing: only what was made here, and not sent yet, is. */
  unknownThere: boolean
}

/** Makes a page's data of what a device knows. @returns undefined: it does not know enough */
export type FromDevice<T, P = unknown> = (
  device: Device,
  wish: Wish<P>,
) => T | undefined | Promise<T | undefined>

interface Shown {
  address: string
  data: unknown
  at: number
}

/** A page that the server could not bring up to date, and of when it is, ms. */
interface Standing {
  address: string
  since: number
}

let standing: Standing | undefined
/** What is on the screen: going back moves the browser's address before the page has come. */
let onScreen: string | undefined

/** A page has come, and is what is looked at now. @param address path and search */
export const arrivedAt = (address: string) => void (onScreen = address)
const listeners = new Set<() => void>()
/** A late answer that nobody has fetched by then is as old as any. */
const LATE_MS = 10_000
const lateListeners = new Set<() => void>()

/** @returns undefined: the page is as the server has it */
export const whatStands = () => standing

export function subscribeToStanding(tell: () => void): () => void {
  listeners.add(tell)
  return () => listeners.delete(tell)
}

/** An answer has come for a page that stands there from the device. */
export function onLateAnswer(tell: () => void): () => void {
  lateListeners.add(tell)
  return () => lateListeners.delete(tell)
}

/** What waits on this device, and what the page has in hand of it. */
async function waitsHere(userId: string): Promise<{ unsent: Unsent[]; makings: Making[] }> {
  const own = <T extends { userId: string }>(all: readonly T[]) =>
    all.filter((each) => each.userId === userId)
  const stored = await wordsKept().then(
    ({ waiting, makings }) => ({ waiting: own(waiting), makings: own(makings).filter(isUnsentMaking) }),
    // A browser that keeps nothing: what there is, the page has.
    () => ({ waiting: [], makings: [] }),
  )
  const inHand = currentOutbox()?.snapshot() ?? { waiting: [], makings: [] }
  const waiting = [...stored.waiting, ...inHand.waiting]
  return {
    unsent: [...new Map(waiting.map((each) => [each.entry.entryId, each])).values()],
    makings: [...new Map([...stored.makings, ...inHand.makings].map((each) => [each.id, each])).values()],
  }
}

/** Nothing is known here to make this page of, and no signal to ask. */
export class NotKept extends Error {
  override name = 'NotKept'
}

/**
 * A route's client loader that asks the server, and opens the page from the device where no answer comes, or none in time.
 * A page that stands there already is not taken away.
 * @param device looked up only when it is needed: a page with signal loads nothing for it
 * @param options around: it is what stands around a page, not the page
 */
export function openPage<T, P = unknown>(
  device?: () => Promise<FromDevice<T, P>>,
  { around = false } = {},
): ((load: Load<T, P>) => Promise<T>) & { hydrate: true } {
  let last: Shown | undefined
  /** The answer that came too late. Each loader has its own: what stands around a page has the page's address, too. */
  let late: Shown | undefined
  const later = async (address: string, asked: Promise<{ data: T } | { error: unknown }>) => {
    const answer = await asked
    if (!('data' in answer) || location.pathname + location.search !== address) return
    late = { address, data: answer.data, at: Date.now() }
    for (const tell of lateListeners) tell()
  }
  const load = async ({ request, params, serverLoader }: Load<T, P>) => {
    const url = new URL(request.url)
    const address = url.pathname + url.search
    /** Somebody has gone elsewhere meanwhile: what comes is not looked at, and says nothing of the page that is. */
    const left = () => request.signal.aborted
    const stand = (since: number | undefined) => {
      if (!around && !left()) setStanding(since === undefined ? undefined : { address, since })
    }
    const show = (data: T, at?: number) => {
      if (!left()) last = { address, data, at: at ?? Date.now() }
      stand(at)
      return data
    }
    const came = late
    late = undefined
    if (came?.address === address && Date.now() - came.at < LATE_MS) return show(came.data as T)
    const asked = serverLoader().then(
      // Nothing at all is no answer of Keg's.
      (data) => (data === undefined ? { error: new TypeError('The answer was empty.') } : { data }),
      (error: unknown) => ({ error }),
    )
    const stands = last !== undefined && (around || (last.address === address && onScreen === address))
    const answer = await (stands || !device ? asked : Promise.race([asked, slow()]))
    if (answer && 'data' in answer) return show(answer.data)
    const unknownThere =
      answer !== undefined && isRouteErrorResponse(answer.error) && answer.error.status === 404
    // A way elsewhere is an answer, to the door for one.
    if (answer && !unknownThere && !noAnswer(answer.error)) throw answer.error
    const wish = { params, search: url.searchParams, at: Date.now(), unknownThere }
    const make = await device?.().catch(notFetched)
    const own = make && (await fromDevice(make, wish))
    if (own) {
      if (!answer) void later(address, asked)
      return show(same(last, address, own.data), own.at)
    }
    const waited = answer ?? (await asked)
    if ('data' in waited) return show(waited.data)
    if (stands) {
      stand(last!.at)
      return last!.data as T
    }
    throw waited.error instanceof TypeError ? new NotKept('This page was not kept here.') : waited.error
  }
  return Object.assign(load, { hydrate: true as const })
}

async function fromDevice<T, P>(
  make: FromDevice<T, P>,
  wish: Wish<P>,
): Promise<{ data: T; at: number } | undefined> {
  const device = await openDevice()
  const data = device && (await make(device, wish))
  return data === undefined ? undefined : { data, at: device!.pack.at }
}

/** Fetches what pages are made of here, before the signal is lost; where that is lost already, the device has it or not. */
export function readyHere(...parts: (() => Promise<unknown>)[]): void {
  for (const part of [() => import('../known/device'), ...parts]) part().catch(() => undefined)
}

/** A part of the program that was not here yet when the signal went: without it nothing can be made of what is kept. */
const notFetched = () => undefined

/**
 * What this device knows for whoever is here.
 * @param besides what is about to be made @returns undefined: nothing is kept for them
 */
export async function openDevice(besides: readonly Making[] = []): Promise<Device | undefined> {
  const userId = whoIsHere()
  const kept = userId && (await packOf(userId))
  if (!kept) return undefined
  const parts = await import('../known/device').catch(notFetched)
  if (!parts) return undefined
  const { unsent, makings } = await waitsHere(userId)
  return new parts.Device(kept, unsent, [...makings, ...besides])
}

/** No way to the server, or one that has nothing to say: it is just starting, or something else answers in its place. */
const noAnswer = (error: unknown) =>
  !(error instanceof Response) && !(isRouteErrorResponse(error) && error.status < 500)

/** A browser that knows of no connection is not waited for: should it be wrong, the answer comes late. */
const slow = () =>
  new Promise<undefined>((resolve) => setTimeout(() => resolve(undefined), navigator.onLine ? SLOW_MS : 0))

/** The same as before is the same: nothing on the page moves. */
function same<T>(last: Shown | undefined, address: string, data: T): T {
  return last?.address === address && JSON.stringify(last.data) === JSON.stringify(data)
    ? (last.data as T)
    : data
}

function setStanding(next: Standing | undefined) {
  if (next?.address === standing?.address && next?.since === standing?.since) return
  standing = next
  for (const tell of listeners) tell()
}

/** What the server has confirmed stays known here until the pack is fetched anew. */
export function confirmed(jobId: string, entries: Parameters<typeof learn>[2]): void {
  const userId = whoIsHere()
  if (userId) void learn(userId, jobId, entries)
}
