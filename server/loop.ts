// What holds the event loop: while one thing is worked out, nobody else is answered. Each time that takes long is
// logged with what was asked, and the worst of each place stands in /metrics.
import type { NextFunction, Request, Response } from 'express'
import { log } from '~/base/session/log.server'

/** The longest time in which nobody is answered, ms. */
const MOST_HELD_MS = 100
const LOOK_MS = 25
/** Places that are remembered, and named in one line of the log. */
const MOST = { remembered: 200, named: 10 }

interface Asked {
  /** `GET /jobs/:id/report.pdf`: where it was asked, not of what. */
  readonly place: string
}

/** In the order in which they came. */
const inHand = new Set<Asked>()
/** Answered since the loop was last looked at. */
let answered: Asked[] = []
const worst = new Map<string, number>()

const ID = /[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}/gi

export function inHandNow({ method, path }: Request, response: Response, next: NextFunction) {
  // Whoever waits for changes or commands is in hand all day, and has nothing worked out.
  if (path === '/events' || path.endsWith('/commands')) return next()
  const asked = { place: `${method} ${path.slice(0, 120).replace(ID, ':id')}` }
  inHand.add(asked)
  response.once('close', () => {
    inHand.delete(asked)
    answered.push(asked)
  })
  next()
}

/** The longest time that each place has held the loop, ms, where that was over 100. */
export const heldByPlace = (): ReadonlyMap<string, number> => worst

/** Looks at the loop for as long as this process lives. */
export function watchLoop() {
  let before = performance.now()
  let work = process.cpuUsage()
  setInterval(() => {
    const now = performance.now()
    const heldMs = now - before - LOOK_MS
    before = now
    const { user, system } = process.cpuUsage(work)
    work = process.cpuUsage()
    // Late because the machine gave it no processor: that is nobody's doing here.
    const worked = (user + system) / 1_000 >= heldMs / 2
    if (heldMs >= MOST_HELD_MS && worked) held(Math.round(heldMs), [...answered, ...inHand])
    answered = []
  }, LOOK_MS).unref()
}

/** The last that was asked is held for what did it: where people come one after another it is. */
function held(ms: number, asked: Asked[]) {
  const places = [...new Set(asked.map((each) => each.place))]
  log.warn({ ms, asked: places.slice(-MOST.named) }, 'the loop was held')
  const place = places.at(-1) ?? 'nobody'
  if (worst.has(place) || worst.size < MOST.remembered) worst.set(place, Math.max(ms, worst.get(place) ?? 0))
}
