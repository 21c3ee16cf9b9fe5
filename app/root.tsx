import { type ReactNode, useEffect } from 'react'
import { Links, Meta, Outlet, Scripts, ScrollRestoration, useRouteLoaderData } from 'react-router'
import type { Theme } from './session/preferences'
import latin from '@fontsource-variable/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-wght-normal.woff2?url'
import sheet from './styles/app.scss?url'
import { ErrorPage } from './ui/error-page'
import { usePageFacts } from './ui/page-facts'

/** Follows the device's light or dark before anything is painted. */
const FOLLOW_DEVICE = `(function(){var d=matchMedia('(prefers-color-scheme: dark)');
function f(){document.documentElement.dataset.bsTheme=d.matches?'dark':'light'}
if(document.documentElement.dataset.bsTheme==='auto'){f();d.addEventListener('change',f)}})()`

export function Layout({ children }: { children: ReactNode }) {
  const { nonce, reference } = usePageFacts()
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
        <script nonce={nonce} suppressHydrationWarning dangerouslySetInnerHTML={{ __html: FOLLOW_DEVICE }} />
        <link rel="icon" href="/keg.svg" type="image/svg+xml" />
        <Meta />
        <Links nonce={nonce} />
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

export function ErrorBoundary() {
  return (
    <main className="page">
      <ErrorPage />
    </main>
  )
}
