// Prints what chaos did and what it left. Run by ./keg bench chaos.
import { chaos, type ChaosResult, failover } from './chaos'
import { liveChaos } from './live-chaos'

/** As long as somebody wants: an hour kills some eight hundred times. */
const SECONDS = Number(process.env.KEG_BENCH_SECONDS ?? 180)
const long = { seconds: SECONDS, writers: 10, streams: 50 }

const results: [string, ChaosResult][] = [[`chaos, ${SECONDS} s`, await chaos(long)]]
const taken = await failover({ ...long, seconds: 30 })
results.push([`failover, taken over in ${(taken.tookOverMs / 1000).toFixed(1)} s`, taken])

let failed = false
for (const [name, r] of results) {
  const sound =
    r.lost.length + r.doubled.length + r.books.wrong.length === 0 && r.heardAtTheEnd && r.supervisorRan
  failed ||= !sound
  console.log(`\n${name}: ${sound ? 'sound' : 'NOT SOUND'}`)
  console.table({
    confirmed: r.confirmed,
    lost: r.lost.length,
    doubled: r.doubled.length,
    'balances that differ': r.books.wrong.length,
    'changes heard': r.heard,
    'heard at the end': r.heardAtTheEnd,
    'longest silence, s': r.longestSilenceMs / 1000,
    'down, all together, s': r.downMs / 1000,
    ...r.acts,
    ...Object.fromEntries(Object.entries(r.answers).map(([what, n]) => [`answered ${what}`, n])),
  })
}
const live = await liveChaos(20)
const wasSound = live.lost + live.doubled + live.breaks === 0 && live.wentOn
failed ||= !wasSound
console.log(
  `\nserver, database and gateway killed in turn, 20 times each: ${wasSound ? 'sound' : 'NOT SOUND'}`,
)
console.table(live)
process.exit(failed ? 1 : 0)
