import { ID, isId } from './id'

export { ID, isId }

/** An id from an address, in whatever case it was copied. @throws Response 404 */
export function idOf(text: string | undefined): string {
  const id = text?.toLowerCase()
  if (isId(id)) return id
  throw new Response('The address is wrong: go back and open it from its list.', { status: 404 })
}

/** What was looked up. @throws Response 404, the same whether it is not there or belongs to another shop */
export function found<T>(row: T | undefined, what: string): T {
  if (row === undefined) throw new Response(`There is no such ${what} in this shop.`, { status: 404 })
  return row
}
