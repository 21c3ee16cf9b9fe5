const HERE = 'http://keg.invalid'

/** The page that a request is about: requests for its data alone carry things that belong to no address. */
export function pageOf(url: string): string {
  const { pathname, searchParams } = new URL(url)
  searchParams.delete('_routes')
  const search = searchParams.size > 0 ? `?${searchParams}` : ''
  const page = pathname.replace(/\.data$/, '')
  return (page === '/_root' || page === '/_' ? '/' : page) + search
}

/** Only to pages of our own, however a foreign address is spelt. @returns '/' for everything else */
export function ownPath(to: string | undefined): string {
  if (!to?.startsWith('/') || !URL.canParse(to, HERE)) return '/'
  const url = new URL(to, HERE)
  // What the reader of addresses makes of it counts: it drops tabs, and takes backslashes for slashes.
  if (url.origin !== HERE || url.pathname.startsWith('//')) return '/'
  return pageOf(url.href) + url.hash
}
