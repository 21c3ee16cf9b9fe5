import { ErrorPage } from '~/ui/error-page'

/** Every address that no page has. */
export function loader() {
  throw new Response('The address is wrong: go to the Bench and start from there.', { status: 404 })
}

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
