import type { ReactNode } from 'react'
import { Links, Meta, Outlet, Scripts, ScrollRestoration, useRouteLoaderData } from 'react-router'
import type { Theme } from './session/preferences'
import './styles/app.scss'
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
  return <Outlet />
}

export function ErrorBoundary() {
  return (
    <main className="page">
      <ErrorPage />
    </main>
  )
}
