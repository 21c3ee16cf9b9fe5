/** What an address asks for by a name, short and without what a database cannot look for. */
export function asked(search: URLSearchParams, name: string, most = 100): string {
  return (search.get(name) ?? '').replaceAll('\0', '').trim().slice(0, most)
}
