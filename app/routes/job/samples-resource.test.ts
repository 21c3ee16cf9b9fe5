import { expect, it } from 'vitest'
import { spansOf } from './samples-resource'

const at = (minutes: number) => new Date(minutes * 60_000)
const span = (since: number, until: number | null, channel: 'weight' | 'low' = 'weight', deviceId = 'd') => ({
  deviceId,
  channel,
  since: at(since),
  until: until === null ? null : at(until),
})
const minutes = (spans: ReturnType<typeof spansOf>) =>
  spans.map(({ channel, from, to }) => [channel, from / 60_000, to / 60_000])

it('a scale that was named as kit and weighed meanwhile is heard once', () => {
  // Named from 10 on; two transfers on it, the first begun a minute before it was named.
  expect(minutes(spansOf([span(10, null), span(9, 20), span(30, null)], 60 * 60_000))).toEqual([
    ['weight', 9, 60],
  ])
})
it('what was set aside meanwhile is left out; channels and devices keep apart', () => {
  expect(
    minutes(spansOf([span(30, 40), span(10, 20), span(12, 15, 'low'), span(15, 35, 'weight', 'e')], 0)),
  ).toEqual([
    ['weight', 10, 20],
    ['low', 12, 15],
    ['weight', 15, 35],
    ['weight', 30, 40],
  ])
  expect(minutes(spansOf([span(10, 20), span(20, 30)], 0))).toEqual([['weight', 10, 30]])
  expect(spansOf([], 0)).toEqual([])
})
