import { Outlet } from 'react-router'
import { ErrorPage } from '~/base/ui/error-page'

/** What a page cannot do stands in its place, with everything around it as it was. */
export function ErrorBoundary() {
  return <ErrorPage />
}

export default function Inside() {
  return <Outlet />
}
