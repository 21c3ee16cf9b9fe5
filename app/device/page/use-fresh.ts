import { useEffect, useEffectEvent, useSyncExternalStore } from 'react'
import { useLocation, useRevalidator } from 'react-router'
import { onLateAnswer, subscribeToStanding, whatStands } from './page'

const AGAIN_MS = 5_000
/** A finger that has just been lifted may come down again on the same key. */
const STILL_MS = 600

let down = false
let lifted = -Infinity

function watchFingers(): () => void {
  const press = () => (down = true)
  const lift = () => {
    down = false
    lifted = Date.now()
  }
  window.addEventListener('pointerdown', press)
  for (const end of ['pointerup', 'pointercancel'] as const) window.addEventListener(end, lift)
  return () => {
    window.removeEventListener('pointerdown', press)
    for (const end of ['pointerup', 'pointercancel'] as const) window.removeEventListener(end, lift)
  }
}

/** Until no finger is on the page. */
async function untilStill() {
  while (down || Date.now() - lifted < STILL_MS)
    await new Promise((resolve) => setTimeout(resolve, STILL_MS / 4))
}

/** Since when the page here could not be brought up to date, ms; undefined: it is as the server has it. */
export function useStandsSince(): number | undefined {
  const stands = useSyncExternalStore(subscribeToStanding, whatStands, () => undefined)
  const { pathname, search } = useLocation()
  return stands?.address === pathname + search ? stands.since : undefined
}

/**
 * Brings a page that was opened from the device up to date: when an answer has come late, when the signal is back, and once in
 * a while. Never under a finger.
 */
export function useFresh() {
  const { revalidate, state } = useRevalidator()
  const stands = useStandsSince() !== undefined
  const load = useEffectEvent(() => {
    if (state === 'idle') void revalidate()
  })
  useEffect(watchFingers, [])
  useEffect(() => onLateAnswer(() => void untilStill().then(load)), [])
  useEffect(() => {
    if (!stands) return
    const again = () => void untilStill().then(load)
    const timer = setInterval(again, AGAIN_MS)
    window.addEventListener('online', again)
    return () => {
      clearInterval(timer)
      window.removeEventListener('online', again)
    }
  }, [stands])
}
