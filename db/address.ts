/** A database's address may name several servers, `…@one:5432,two:5432/keg`: the one that takes writes is used. */
export function severalHosts(url: string): boolean {
  return hostsOf(url).includes(',')
}

/** User, password and database of an address, of one server or of several. */
export function partsOf(url: string): { user: string; password: string; database: string } {
  const one = new URL(url.replace(hostsOf(url), (hosts) => hosts.split(',')[0]!))
  return {
    user: decodeURIComponent(one.username),
    password: decodeURIComponent(one.password),
    database: one.pathname.slice(1),
  }
}

/** The same servers and user, another database. */
export function withDatabase(url: string, database: string): string {
  const hosts = hostsOf(url)
  const one = new URL(url.replace(hosts, (all) => all.split(',')[0]!))
  one.pathname = `/${database}`
  return one.href.replace(hostsOf(one.href), hosts)
}

function hostsOf(url: string): string {
  return /^[a-z]+:\/\/(?:[^@/]*@)?([^/?]*)/.exec(url)?.[1] ?? ''
}
