import { Piscina } from 'piscina'
import { BusyError } from '#db'
import { log } from '~/base/session/log.server'
import type { Given, Made, Task } from './tasks'

/** So many wait for their turn at one task; whoever comes after them is told to come again. */
const MOST_WAITING = 8
/** A thread that has had nothing to do for so long gives its memory back, ms. */
const IDLE_MS = 20_000
const MOST_MEMORY_MB = 768

/** It took longer, its turn included, or more room, than any honest piece of work. */
export class TooMuchError extends BusyError {
  override name = 'TooMuchError'
}

const pools = new Map<Task, Piscina>()

/** One thread for each task: an archive that takes minutes keeps no paper waiting, and no task the processors to itself. */
function threadOf(task: Task): Piscina {
  const known = pools.get(task)
  if (known) return known
  const pool = new Piscina({
    ...(import.meta.env.PROD
      ? { filename: new URL('./threads.js', import.meta.url).href }
      : { filename: new URL('./tasks.ts', import.meta.url).href, execArgv: ['--import', 'tsx'] }),
    minThreads: 0,
    maxThreads: 1,
    maxQueue: MOST_WAITING,
    idleTimeout: IDLE_MS,
    resourceLimits: { maxOldGenerationSizeMb: MOST_MEMORY_MB },
  })
  pools.set(task, pool)
  return pool
}

/**
 * Has something worked out beside whatever the server does.
 * @param ms the longest that honest work takes
 * @param hand what is handed over and not copied
 * @throws BusyError when too many wait already
 * @throws TooMuchError when it took too long, or too much memory
 */
export async function inThread<T extends Task>(
  task: T,
  given: Given<T>,
  ms: number,
  hand: ArrayBuffer[] = [],
): Promise<Made<T>> {
  try {
    return (await threadOf(task).run(
      { task, given },
      { signal: AbortSignal.timeout(ms), transferList: hand },
    )) as Made<T>
  } catch (error) {
    const { message, code, name } = error as { message: string; code?: string; name: string }
    if (/queue/i.test(message)) throw new BusyError(`${task}: ${message}`, error)
    if (name !== 'AbortError' && code !== 'ERR_WORKER_OUT_OF_MEMORY') throw error
    log.warn({ task, err: error }, 'what was asked of a thread was too much')
    throw new TooMuchError(`${task}: ${message}`, error)
  }
}
