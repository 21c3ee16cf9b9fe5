import { openPage } from '~/device/page/page'
import { ErrorPage } from '~/base/ui/error-page'

/** Every address that no page has. */
export function loader() {
  throw new Response('The address is wrong: go to the Bench and start from there.', { status: 404 })
}

export const clientLoader = openPage<Awaited<ReturnType<typeof loader>>>()

export const action = loader

export default function NotFound() {
  return null
}

export function ErrorBoundary() {
  return (
    <main className="page">
      <ErrorPage />
    </main>
  )
}
