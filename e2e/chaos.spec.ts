// The short form of ./keg bench chaos: sessions end, the database and the server are stopped and killed, and nothing
// that was confirmed is lost.
import { chaos, failover, type ChaosResult } from '../bench/chaos'
import { liveChaos } from '../bench/live-chaos'
import { expect, test } from '@playwright/test'

function expectSound(result: ChaosResult) {
  expect(result.lost).toEqual([])
  expect(result.doubled).toEqual([])
  expect(result.books.wrong).toEqual([])
  expect(result.books.movements).toBeGreaterThan(0)
  expect(result.confirmed).toBeGreaterThan(20)
  expect(result.heardAtTheEnd).toBe(true)
  expect(result.supervisorRan).toBe(true)
}

test('every confirmed entry is there, once, whatever ends meanwhile, and nobody has to help', async () => {
  const result = await chaos({ seconds: 10, writers: 4, streams: 10 })
  expectSound(result)
  expect(Object.keys(result.acts)).toHaveLength(6)
})

test('a standby takes over in the middle of writes, and writers and listeners follow', async () => {
  const result = await failover({ seconds: 6, writers: 4, streams: 10 })
  expectSound(result)
  expect(result.tookOverMs).toBeGreaterThan(0)
})

test('server, database and gateway are killed in turn: no sample is lost or doubled, and the run goes on', async () => {
  const { said, kills, ...left } = await liveChaos(3)
  expect(kills).toBe(9)
  // How many there are in the time follows from the machine; that they come between any two kills does not.
  expect(said).toBeGreaterThan(kills)
  expect(left).toEqual({ lost: 0, doubled: 0, breaks: 0, wentOn: true })
})
