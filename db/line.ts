import { BusyError } from './busy'

/** Takes work one after another, or so many at once; whoever would wait too long, or stands too far back, is told so. */
export interface Line {
  <T>(work: () => Promise<T>): Promise<T>
  /** Nobody is at work, and nobody waits. */
  idle: () => boolean
}

interface Limits {
  atOnce: number
  /** So many may wait. */
  most: number
  /** No longer than this, ms. */
  ms: number
}

/** @throws BusyError from the line, when the work was not begun */
export function line({ atOnce, most, ms }: Limits): Line {
  let working = 0
  const waiting: (() => void)[] = []

  const turn = () =>
    new Promise<void>((resolve, reject) => {
      const begin = () => {
        clearTimeout(patience)
        resolve()
      }
      const patience = setTimeout(() => {
        waiting.splice(waiting.indexOf(begin), 1)
        reject(new BusyError(`Nothing came free in ${ms / 1000} s`))
      }, ms)
      waiting.push(begin)
    })

  const take = async <T>(work: () => Promise<T>): Promise<T> => {
    if (working < atOnce) working++
    else if (waiting.length >= most) throw new BusyError(`${most} wait already`)
    // Whoever leaves hands the place on: it stays taken.
    else await turn()
    try {
      return await work()
    } finally {
      const next = waiting.shift()
      if (next) next()
      else working--
    }
  }
  return Object.assign(take, { idle: () => working === 0 && waiting.length === 0 })
}

/** A line for each of many, by what it is of: a job, a person. */
export function lines(limits: Limits): <T>(of: string, work: () => Promise<T>) => Promise<T> {
  const all = new Map<string, Line>()
  return async (of, work) => {
    let own = all.get(of)
    if (!own) all.set(of, (own = line(limits)))
    try {
      return await own(work)
    } finally {
      if (own.idle()) all.delete(of)
    }
  }
}
