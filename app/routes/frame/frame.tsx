import { lazy, Suspense, useCallback, useEffect, useState } from 'react'
import {
  Link,
  NavLink,
  Outlet,
  type ShouldRevalidateFunctionArgs,
  useLocation,
  useNavigation,
} from 'react-router'
import { AlarmBanner } from '~/pages/frame/alarms/banner'
import { callingIn } from '~/alarms/read.server'
import { ClockStrip } from '~/device/clocks/strip'
import { inShop, jobsWithClocks } from '#db'
import { now } from '~/base/session/clock.server'
import { preferencesOf } from '~/base/session/preferences'
import { onlySignedIn, signedIn } from '~/base/session/signed-in.server'
import { openPage, readyHere } from '~/device/page/page'
import { forgetForms } from '~/device/page/send-form'
import { isUnsent } from '~/device/page/unsent-form'
import { useFresh } from '~/device/page/use-fresh'
import { usePack } from '~/device/pack/use-pack'
import { OutboxProvider } from '~/device/outbox/outbox-context'
import { SignOut } from '~/device/waiting/sign-out'
import { SignalLine } from '~/device/waiting/signal-line'
import { NotTakenLine } from '~/device/waiting/not-taken-line'
import { ErrorPage } from '~/base/ui/error-page'
import { ReaderContext } from '~/base/ui/reader'
import { Shortcuts } from '~/base/ui/shortcuts'
import type { Route } from './+types/frame'
import type { FrameData } from '~/pages/frame/data'

export const middleware: Route.MiddlewareFunction[] = [onlySignedIn]

export async function loader({ context }: Route.LoaderArgs) {
  const { person, shop } = signedIn(context)
  const [jobs, calling] = await Promise.all([
    inShop(shop.shopId, (tx) => jobsWithClocks(tx)),
    callingIn(shop.shopId, person.userId),
  ])
  return {
    // What runs, and what calls, stands there at once, and moves nothing when it is told again.
    running: { now: now().getTime(), jobs },
    calling,
    person: { userId: person.userId, name: person.name, role: person.role },
    shop: { name: shop.name, timeZone: shop.timeZone },
    preferences: preferencesOf(person.preferences),
  } satisfies FrameData
}

export const clientLoader = openPage<FrameData>(
  () => import('~/pages/frame/from-device').then((each) => each.frame),
  {
    around: true,
  },
)

/** Who one is changes with a form that is sent, not with going somewhere: the door is kept by the middleware. */
export function shouldRevalidate({
  formMethod,
  actionResult,
  defaultShouldRevalidate,
}: ShouldRevalidateFunctionArgs) {
  if (isUnsent(actionResult)) return false
  return formMethod !== undefined && formMethod !== 'GET' ? defaultShouldRevalidate : false
}

const loadFinder = () => import('~/pages/frame/finder')
const Finder = lazy(() => loadFinder().then((each) => ({ default: each.Finder })))
/** After the page is there: what a press would wait for, and without signal in vain. */
const READY_MS = 4_000

const PLACES = [
  ['/', 'Bench'],
  ['/cylinders', 'Cylinders'],
  ['/kit', 'Kit'],
  ['/systems', 'Systems'],
  ['/slide-rule', 'Slide rule'],
  ['/ledger', 'Ledger'],
] as const

/** What stands around every page: where one is, who one is, and whether entries wait. */
export default function Frame({
  loaderData: { person, shop, preferences, running, calling },
}: Route.ComponentProps) {
  const loading = useNavigation().state !== 'idle'
  const [finding, setFinding] = useState(false)
  const find = useCallback(() => setFinding(true), [])
  useFresh()
  const { pathname } = useLocation()
  useEffect(forgetForms, [pathname])
  useEffect(() => {
    const timer = setTimeout(() => readyHere(loadFinder), READY_MS)
    return () => clearTimeout(timer)
  }, [])
  usePack(person.userId)
  return (
    <OutboxProvider key={person.userId} person={person} theme={preferences.theme}>
      <ReaderContext value={{ units: preferences.units }}>
        <a className="skip" href="#content">
          To the content
        </a>
        <div className="frame">
          <AlarmBanner person={person} notify={preferences.notify} loaded={calling} />
          <header className="topbar">
            <Link to="/" className="mark" aria-label="Keg, to the Bench">
              Keg
            </Link>
            <nav className="places" aria-label="Places">
              <Places />
            </nav>
            {person.role !== 'trainee' && (
              <NavLink to="/jobs/new" className="go">
                New job
              </NavLink>
            )}
            <div className="who">
              <button type="button" onClick={find} aria-keyshortcuts="/">
                Find
              </button>
              <NavLink to="/settings" aria-label={`Settings of ${person.name}`}>
                <span className="d-none d-md-inline">{person.name}</span>
                <span className="d-md-none">Settings</span>
              </NavLink>
              <SignOut className="d-none d-md-flex" />
            </div>
          </header>
          <div>
            {loading && <div className="progress-line" role="progressbar" aria-label="Loading" />}
            <SignalLine timeZone={shop.timeZone} />
            <NotTakenLine timeZone={shop.timeZone} />
            <ClockStrip person={person} loaded={running} />
            <main className="page" id="content">
              <Outlet />
            </main>
          </div>
          <nav className="bottombar" aria-label="Places, at the thumb">
            <Places />
          </nav>
        </div>
        <Shortcuts find={find} />
        {finding && (
          <Suspense fallback={null}>
            <Finder close={() => setFinding(false)} />
          </Suspense>
        )}
      </ReaderContext>
    </OutboxProvider>
  )
}

function Places() {
  return PLACES.map(([to, name]) => (
    <NavLink key={to} to={to} end={to === '/'}>
      {name}
    </NavLink>
  ))
}

export function ErrorBoundary() {
  return (
    <main className="page">
      <ErrorPage />
    </main>
  )
}
