import { describe, expect, it } from 'vitest'
import { stampDate } from '.'

describe('a stamped test date', () => {
  it.each([
    ['3/25', '2025-03-01'],
    ['03-2025', '2025-03-01'],
    [' 03 25 ', '2025-03-01'],
    ['Mar 25', '2025-03-01'],
    ['march 2025', '2025-03-01'],
    ['2025-03', '2025-03-01'],
    ['2025-03-14', '2025-03-14'],
    ['12.19', '2019-12-01'],
    ['3/99', '1999-03-01'],
    ['Mar 70', '1970-03-01'],
    ['3/69', '2069-03-01'],
  ])('%s', (typed, read) => expect(stampDate(typed)).toBe(read))
  it.each(['13/25', '00/25', '3/14/25', '14.3.2025', '2025', 'foo 25', '2025-02-30', '03-1890', ''])(
    'not %s',
    (typed) => expect(stampDate(typed)).toBeUndefined(),
  )
})
