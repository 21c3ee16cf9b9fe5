import { type ReactNode, useEffect, useSyncExternalStore } from 'react'
import {
  Links,
  Meta,
  Outlet,
  Scripts,
  ScrollRestoration,
  useLocation,
  useRouteLoaderData,
} from 'react-router'
import { arrivedAt } from '~/device/page/page'
import type { Theme } from '~/base/session/preferences'
import latin from '@fontsource-variable/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-wght-normal.woff2?url'
import sheet from './styles/app.scss?url'
import { ErrorPage } from '~/base/ui/error-page'
import { usePageFacts } from '~/base/ui/page-facts'

/** Follows the device's light or dark, or what a person chose here, before anything is painted. */
const FOLLOW_DEVICE = `(function(){var d=matchMedia('(prefers-color-scheme: dark)'),r=document.documentElement.dataset,t;
try{t=localStorage.getItem('keg-theme');if(localStorage.getItem('keg-sign-out-owed')&&navigator.onLine)document.documentElement.style.display='none'}catch(e){}
function f(){r.bsTheme=d.matches?'dark':'light'}
if(r.bsTheme==='auto'&&(t==='light'||t==='dark'))r.bsTheme=t
else if(r.bsTheme==='auto'){f();d.addEventListener('change',f)}})()`

const never = () => () => {}
/** Not while a page is taken over from the server: it must be the same then. */
const useHydrated = () =>
  useSyncExternalStore(
    never,
    () => true,
    () => false,
  )

export function Layout({ children }: { children: ReactNode }) {
  const { nonce, reference, build, shell } = usePageFacts()
  const hydrated = useHydrated()
  const { pathname, search } = useLocation()
  useEffect(() => arrivedAt(pathname + search), [pathname, search])
  const theme = useRouteLoaderData<{ preferences?: { theme: Theme } }>('frame')?.preferences?.theme ?? 'auto'
  return (
    <html lang="en" data-bs-theme={theme} suppressHydrationWarning>
      <head>
        <meta charSet="utf-8" />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
        <meta name="color-scheme" content="light dark" />
        <meta
          name="description"
          content="A weighed logbook for refrigeration and vehicle-AC work: what came out, what went in, and where every gram is."
        />
        {/* First what is needed to paint; scripts come after. */}
        <link rel="stylesheet" href={sheet} nonce={nonce} />
        <link rel="preload" href={latin} as="font" type="font/woff2" crossOrigin="anonymous" />
        <meta name="keg-reference" content={reference} />
        <meta name="keg-build" content={build} />
        <meta name="keg-shell" content={shell ? 'yes' : 'no'} />
        <script nonce={nonce} suppressHydrationWarning dangerouslySetInnerHTML={{ __html: FOLLOW_DEVICE }} />
        <link rel="icon" href="/keg.svg" type="image/svg+xml" />
        <link rel="apple-touch-icon" href="/icons/keg-180.png" />
        <link rel="manifest" href="/manifest.webmanifest" />
        <meta name="theme-color" content="#27221c" />
        <Meta />
        {(hydrated || !shell) && <Links nonce={nonce} />}
      </head>
      <body>
        {children}
        <ScrollRestoration nonce={nonce} />
        <Scripts nonce={nonce} />
      </body>
    </html>
  )
}

export function meta() {
  return [{ title: 'Keg' }]
}

export default function Root() {
  // From now on the page answers to presses: for whoever drives it.
  useEffect(() => {
    document.documentElement.dataset.alive = 'yes'
  }, [])
  return <Outlet />
}

/** While a page that the service worker opened loads what it shows. */
export function HydrateFallback() {
  return (
    <div className="frame">
      <header className="topbar">
        <span className="mark">Keg</span>
      </header>
      <main className="page" aria-busy="true" aria-label="Opening" />
    </div>
  )
}

export function ErrorBoundary() {
  return (
    <main className="page">
      <ErrorPage />
    </main>
  )
}
