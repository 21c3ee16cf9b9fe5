/** How a list is to be shown: what an address says of it. */
export interface ListWish<Sort extends string> {
  number: number
  sort: Sort
  down: boolean
}

const MOST_PAGES = 10_000

/** `?sort=-label&page=2`; what is not among the sorts is the first of them. */
export function listWish<Sort extends string>(
  search: URLSearchParams,
  sorts: readonly [Sort, ...Sort[]],
  firstDown = false,
): ListWish<Sort> {
  const asked = search.get('sort') ?? ''
  const down = asked.startsWith('-')
  const sort = sorts.find((each) => each === (down ? asked.slice(1) : asked))
  const page = Number(search.get('page'))
  return {
    number: Math.trunc(Math.min(MOST_PAGES, Math.max(1, Number.isFinite(page) ? page : 1))) || 1,
    sort: sort ?? sorts[0],
    down: sort === undefined ? firstDown : down,
  }
}
