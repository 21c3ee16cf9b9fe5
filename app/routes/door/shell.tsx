import { redirect } from 'react-router'

/**
 * What the service worker keeps of a page: the program, and nobody's data. Opened under any address it loads that page.
 * Without a loader on the server, all that is rendered there is the root's fallback.
 */
export function clientLoader(): never {
  throw redirect('/')
}

export default function Shell() {
  return null
}
