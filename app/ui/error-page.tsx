import { isRouteErrorResponse, Link, useRouteError } from 'react-router'
import { usePageFacts } from './page-facts'

/** Says what happened, that nothing was lost, and what to do next. */
export function ErrorPage() {
  const error = useRouteError()
  const { reference } = usePageFacts()
  if (isRouteErrorResponse(error) && error.status < 500)
    return (
      <div className="sheet stack">
        <h1>{error.status === 404 ? 'There is nothing here' : 'This cannot be done'}</h1>
        <p className="mb-0">
          {typeof error.data === 'string' && error.data !== ''
            ? error.data
            : 'The address is wrong, or what was here belongs to another shop.'}
        </p>
        <Home />
      </div>
    )
  return (
    <div className="sheet stack">
      <h1>Something went wrong in Keg</h1>
      <p className="mb-0">
        Nothing was lost: what you noted is on the server, or waits on this device and is sent again. Go back
        and try once more. If it happens again, tell whoever runs Keg the reference{' '}
        <strong className="digits">{reference || 'unknown'}</strong> and the time <Time />.
      </p>
      <Home />
    </div>
  )
}

function Time() {
  return (
    <span className="digits" suppressHydrationWarning>
      {new Date().toISOString().slice(11, 19)} UTC
    </span>
  )
}

function Home() {
  return (
    <div className="row-of">
      <Link className="btn btn-primary" to="/">
        To the Bench
      </Link>
      <a className="btn btn-outline-secondary" href="">
        Try this page again
      </a>
    </div>
  )
}
