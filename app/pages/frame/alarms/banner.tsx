import { useEffect, useEffectEvent, useLayoutEffect, useRef, useState } from 'react'
import { Button } from 'react-bootstrap'
import { Link, useLocation } from 'react-router'
import { firstToRing, ring } from '~/device/clocks/ring'
import { useRunning } from '~/device/clocks/running'
import { ask } from '~/base/ask'
import { listenForChanges } from '~/device/news/changes'
import { makeEntry } from '~/tape/device'
import { useOutbox } from '~/device/outbox/outbox-context'
import { ALARM_WORDS, wordOf } from '~/words/en'
import { mayAskToNotify, notifyOutside, neverAskToNotify } from './outside'
import type { Calling } from '~/alarms/read.server'

interface AlarmBannerProps {
  person: { userId: string; role: string }
  notify: boolean
  /** What called when the page was loaded. */
  loaded: Calling[]
}

const nameOf = ({ title, number }: Calling) => title || `Job ${number}`
/** What a station asks for stands large on the page of its job. */
const inSight = ({ code, jobId }: Calling, pathname: string) =>
  code === 'hand-wanted' && pathname === `/jobs/${jobId}`
/** The strip of clocks asks for what is due, and calls for it. */
const inTheStrip = ({ code }: Calling) => code === 'due'

/**
 * What calls in the jobs that this person works on, here or on another device: on every page, until somebody says that it was
 * seen. It never stands over what is typed, and can be put aside.
 */
export function AlarmBanner({ person, notify, loaded }: AlarmBannerProps) {
  const { own } = useRunning(person.userId)
  const { alarms, see } = useAlarms(person.userId, loaded)
  const mine = alarms.filter((each) => each.mine || own.includes(each.jobId))
  const { pathname } = useLocation()
  const shown = mine.filter((each) => !inTheStrip(each) && !inSight(each, pathname))
  useCalling(mine, notify)
  const [later, setLater] = useState('')
  const keys = shown.map(keyOf).join('\n')
  const box = useRef<HTMLDivElement>(null)
  useClearOfFields(box, shown.length > 0 && later !== keys)
  const first = shown[0]
  if (!first) return null
  // Put aside it stays in sight, and comes back with the next one.
  if (later === keys)
    return (
      <button
        type="button"
        className={first.urgent ? 'alarm-pill urgent' : 'alarm-pill'}
        onClick={() => setLater('')}
      >
        {shown.length === 1 ? '1 alarm' : `${shown.length} alarms`}
      </button>
    )
  return (
    <div ref={box} className={first.urgent ? 'alarm-banner urgent' : 'alarm-banner'} role="alert">
      <Link to={`/jobs/${first.jobId}`}>
        <strong>{wordOf(ALARM_WORDS, first.code)}</strong>
        <span>
          {nameOf(first)}
          {shown.length > 1 && `, and ${shown.length - 1} more`}
        </span>
      </Link>
      {notify && <AskToNotify />}
      <Button variant="outline-light" onClick={() => setLater(keys)}>
        Later
      </Button>
      {person.role !== 'trainee' && (
        <Button variant="light" onClick={() => see(first)}>
          Seen
        </Button>
      )}
    </div>
  )
}

function useAlarms(userId: string, loaded: Calling[]) {
  const { outbox } = useOutbox()
  const [alarms, setAlarms] = useState(loaded)
  // Seen here, and on its way: it does not come back while the server does not know.
  const seen = useRef(new Set<string>())
  const heard = useEffectEvent((now: Calling[]) =>
    setAlarms(now.filter((each) => !seen.current.has(keyOf(each)))),
  )
  useEffect(() => {
    let gone = false
    const fetchThem = async () => {
      const answer = await ask<{ alarms: Calling[] }>('/alarms')
      if (!gone && answer) heard(answer.alarms)
    }
    const stop = listenForChanges(
      ({ kind }) => {
        if (kind === 'alarm' || kind === 'job' || kind === 'refetch') void fetchThem()
      },
      { catchUp: true },
    )
    return () => {
      gone = true
      stop()
    }
  }, [userId])
  const see = (alarm: Calling) => {
    const { jobId, code, cause } = alarm
    seen.current.add(keyOf(alarm))
    setAlarms((all) => all.filter((each) => keyOf(each) !== keyOf(alarm)))
    void outbox.put(jobId, [makeEntry('alarm-acknowledged', { code, cause })])
  }
  return { alarms, see }
}

const keyOf = ({ jobId, cause }: Calling) => `${jobId} ${cause}`

/** Each calls once on a device, in whichever tab is first. */
function useCalling(alarms: Calling[], notify: boolean) {
  const keys = alarms.map(keyOf).join('\n')
  const call = useEffectEvent(() => {
    const fresh = alarms.filter((each) => firstToRing(keyOf(each)))
    if (fresh.length === 0) return
    if (fresh.some((each) => !inTheStrip(each))) ring()
    if (notify) for (const each of fresh) notifyOutside(wordOf(ALARM_WORDS, each.code), nameOf(each))
  })
  useEffect(() => {
    if (keys !== '') call()
  }, [keys])
}

/** A field that is typed in moves out from under it, once. */
function useClearOfFields(box: React.RefObject<HTMLDivElement | null>, there: boolean) {
  useLayoutEffect(() => {
    const active = document.activeElement
    if (!there || !box.current || !(active instanceof HTMLInputElement)) return
    const [banner, field] = [box.current.getBoundingClientRect(), active.getBoundingClientRect()]
    // Above on a phone, below on a desk.
    if (banner.top <= 0 && field.top < banner.bottom + 8) window.scrollBy(0, field.top - banner.bottom - 8)
    else if (banner.top > 0 && field.bottom > banner.top - 8)
      window.scrollBy(0, field.bottom - banner.top + 8)
  }, [box, there])
}

/** Asked once on a device; who says no is not asked again. */
function AskToNotify() {
  const [asks, setAsks] = useState(false)
  useEffect(() => {
    const soon = setTimeout(() => setAsks(mayAskToNotify()))
    return () => clearTimeout(soon)
  }, [])
  if (!asks) return null
  return (
    <Button
      variant="outline-light"
      className="ask-notify"
      onClick={() => {
        neverAskToNotify()
        setAsks(false)
        void Notification.requestPermission()
      }}
    >
      Tell me outside of Keg too
    </Button>
  )
}
