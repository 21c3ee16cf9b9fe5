import { isRouteErrorResponse, Link, useRouteError } from 'react-router'
import { usePageFacts } from './page-facts'

/** Says what happened, what is safe, and what to do next. */
export function ErrorPage() {
  const error = useRouteError()
  const { reference } = usePageFacts()
  if (hasNoAnswer(error))
    return (
      <div className="sheet stack">
        <h1>No connection</h1>
        <p className="mb-0">
          This page is not kept on this device: it opens when the connection is back. What you noted in jobs
          is kept here, and is sent by itself.
        </p>
        <Home />
      </div>
    )
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
        What you noted in jobs is on the server, or waits on this device and is sent again. If you were
        filling in a form, look whether it was taken before you fill it in once more. If it happens again,
        tell whoever runs Keg the reference <strong className="digits">{reference || 'unknown'}</strong> and
        the time <Time />.
      </p>
      <Home />
    </div>
  )
}

/** No way to the server, and the page is not kept here. Browsers say so in words of their own. */
const hasNoAnswer = (error: unknown) =>
  error instanceof Error &&
  (error.name === 'NotKept' ||
    (error instanceof TypeError && /fetch|network|load failed|connection/i.test(error.message)))

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
