import { v4 as uuid } from 'uuid'
import type { Made } from '#core/tape'

const KEY = 'keg-device-ahead'

let life: string | undefined
let heardMs: number | undefined

/** This moment by what nobody can set, and how far this device's clock was ahead as it last heard of the server's. */
export function madeNow(): Made {
  life ??= uuid()
  heardMs ??= heardBefore()
  return { life, ms: Math.round(performance.now()), ...(heardMs === undefined ? {} : { heardMs }) }
}

/** The server's clock was heard. @param offsetMs this device's clock less the server's, ms */
export function heardServer(offsetMs: number): void {
  heardMs = Math.round(offsetMs)
  try {
    localStorage.setItem(KEY, String(heardMs))
  } catch {
    // A browser that keeps nothing: as long as this page is open.
  }
}

/** By a page before this one. */
function heardBefore(): number | undefined {
  try {
    const kept = Number(localStorage.getItem(KEY) ?? NaN)
    return Number.isFinite(kept) ? kept : undefined
  } catch {
    return undefined
  }
}
