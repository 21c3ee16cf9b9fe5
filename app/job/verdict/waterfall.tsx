import { restMg, waterfall, type WaterfallStep } from '#core/recovery'
import { expectedIn, recoveredEpisode } from '#core/tape'
import { MG_PER_KG } from '#core/units'
import type { Verdict } from '#core/verdict'
import { useShow } from '~/base/ui/reader'
import { WATERFALL_WORDS } from '~/words/en'
import { Drawn } from '~/base/ui/drawing/drawn'
import type { WaterfallInput } from '../chart/waterfall-drawing'
import { useJob } from '../field/job-context'

const load = () => import('../chart/waterfall-drawing').then(({ waterfallIn }) => waterfallIn)

/** From what should have been in there to what came out, step by step. */
export function FromExpected({ verdict }: { verdict: Verdict }) {
  const { state, data } = useJob()
  const show = useShow()
  const expected = verdict.numbers.find((each) => each.name === 'expected')
  const episode = recoveredEpisode(state)
  if (!expected || !episode) return null
  const expectedMg = Math.round(expected.value * MG_PER_KG)
  const plate = expectedIn(data, state)
  // Of an episode that this job filled itself nothing but that is known.
  const parts =
    data.booksBefore && episode.began === 'as-found'
      ? [{ what: 'books' as const, name: '', massMg: data.booksBefore.massMg }]
      : episode.began === 'as-found' && plate
        ? plate.parts
        : []
  const steps = waterfall({
    parts,
    expectedMg,
    recoveredMg: episode.recoveredMg,
    keptMg: episode.keptMg,
    restMg: Math.round(restMg({ massMg: expectedMg })),
  })
  const name = ({ what, name: own }: WaterfallStep) => own || WATERFALL_WORDS[what]
  const text = (each: WaterfallStep) =>
    `${each.sum ? '' : each.massMg < 0 ? '−' : '+'}${show('weight', Math.abs(each.massMg))}`
  const input: WaterfallInput = {
    steps: steps.map((each) => ({
      name: name(each),
      from: each.fromMg / MG_PER_KG,
      height: Math.abs(each.massMg) / MG_PER_KG,
      tone: toneOf(each),
      label: text(each),
    })),
  }
  const label = steps.map((each) => `${name(each)} ${text(each)}`).join(', ')
  return (
    <details className="mt-1" open>
      <summary>From expected to recovered</summary>
      <div style={{ height: `${steps.length * 1.9}rem` }}>
        <Drawn className="waterfall" label={label} input={input} load={load} />
      </div>
    </details>
  )
}

function toneOf({ what, sum, massMg }: WaterfallStep): WaterfallInput['steps'][number]['tone'] {
  if (sum) return 'sum'
  if (what === 'missing' || what === 'more') return 'amiss'
  return massMg < 0 ? 'down' : 'up'
}
