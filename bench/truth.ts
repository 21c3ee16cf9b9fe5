// Courses of work by lot on a plant that knows every gram: how often what Keg says of them is not so. Prints a table, and the
// first courses that broke a rule; nothing in it can fail. Used by ./keg bench truth.
import { fork } from 'node:child_process'
import { availableParallelism } from 'node:os'
import { type Breach, type Count, newCounts, told, truthOf } from '../testing/truth/run'

const COURSES = Number(process.env.KEG_BENCH_RUNS ?? 10_000)
/** So many of each rule are told of. */
const TOLD = 2
/** So many are told of in one message. */
const SLICE = 50

interface Part {
  counts: Record<string, Count>
  breaches: Breach[]
}

if (process.send) playPart(Number(process.argv[2]), Number(process.argv[3]))
else await playAll()

/** Every so-manieth course, from a first one. */
function playPart(first: number, every: number) {
  let part: Part = { counts: newCounts(), breaches: [] }
  let played = 0
  for (let seed = first; seed < COURSES; seed += every) {
    part.breaches.push(...truthOf(seed, part.counts))
    if (++played % SLICE > 0 && seed + every < COURSES) continue
    process.send!(part)
    part = { counts: newCounts(), breaches: [] }
  }
}

async function playAll() {
  const counts = newCounts()
  const breaches: Breach[] = []
  const hands = availableParallelism()
  const parts = Array.from({ length: hands }, (_, first) => {
    const child = fork(import.meta.filename, [String(first), String(hands)])
    child.on('message', (part: Part) => {
      breaches.push(...part.breaches)
      for (const [rule, { exercised, broken }] of Object.entries(part.counts)) {
        counts[rule]!.exercised += exercised
        counts[rule]!.broken += broken
      }
    })
    return new Promise<void>((done, failed) => {
      child.on('exit', (code) => (code === 0 ? done() : failed(new Error(`a part ended with ${code}`))))
    })
  })
  await Promise.all(parts)
  console.log(`\n${COURSES} courses of work\n`)
  console.log(`${'Rule'.padEnd(24)}${'Exercised in'.padStart(14)}${'Broken in'.padStart(12)}`)
  for (const [rule, { exercised, broken }] of Object.entries(counts))
    console.log(
      `${rule.padEnd(24)}${String(exercised).padStart(14)}${`${broken} ${((100 * broken) / COURSES).toFixed(2)} %`.padStart(16)}`,
    )
  const toTell = Object.keys(counts).flatMap((rule) =>
    breaches.filter((each) => each.rule === rule).slice(0, TOLD),
  )
  for (const breach of toTell) {
    console.log(`\n${breach.rule}, course ${breach.seed}: ${breach.what}`)
    for (const line of told(breach.seed, breach)) console.log(`  ${line}`)
  }
}
