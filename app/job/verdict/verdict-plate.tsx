import type { FormEvent } from 'react'
import { expectedIn, plateOf } from '#core/tape'
import { Button } from 'react-bootstrap'
import { tableOf } from '#core/refrigerants'
import { type Explanation, explanations } from '#core/systems'
import { formatWeight, massNumber, MG_PER_KG } from '#core/units'
import type { Verdict } from '#core/verdict'
import { draft } from '~/tape/draft'
import { MeasureInput } from '~/base/ui/measure-field'
import { useReadersUnits, useShow } from '~/base/ui/reader'
import { useJob } from '../field/job-context'
import { useFigure } from '../field/use-figure'

/** The plate, where none is known: read at the machine, it is used at once. */
export function PlateField() {
  const { data, state, note, closed } = useJob()
  const plate = useFigure('plate', 'plate')
  const { units } = useReadersUnits()
  const known = plateOf(data, state)
  if (closed || known.plateMg !== null || known.panelTotalMg !== null) return null
  const submit = (event: FormEvent) => {
    event.preventDefault()
    const massMg = plate.want()
    if (massMg === undefined || massMg <= 0) return
    const text = plate.field.value.trim()
    note([
      draft('plate-noted', {
        massMg,
        text: /[a-z#]/i.test(text) ? text : `${text} ${units.weight === 'kg' ? 'kg' : 'lb'}`,
      }),
    ])
    plate.clear()
  }
  return (
    <form onSubmit={submit} className="row-of mt-2" style={{ alignItems: 'start' }}>
      <div style={{ flex: '1 1 14rem' }}>
        <MeasureInput {...plate.field} label="Charge on the plate" />
      </div>
      <Button type="submit" variant="outline-primary" style={{ marginTop: '1.75rem' }}>
        Use it
      </Button>
    </form>
  )
}

const DAY_MS = 86_400_000
const percent = (share: number) => `${Math.round(100 * share)} %`

/** What would explain that more, or less, came out: worked out, not guessed at. */
export function Explained({ verdict }: { verdict: Verdict }) {
  const { data, state } = useJob()
  const show = useShow()
  const difference = verdict.numbers.find((each) => each.name === 'difference')
  const amiss = verdict.code === 'more-than-expected' || verdict.code === 'less-than-expected'
  const gas = state.gasChanges[0]?.from ?? state.refrigerant
  if (!amiss || !difference || !gas) return null
  const expected = verdict.numbers.find((each) => each.name === 'expected')
  const plate = expectedIn(data, state)
  const lastMs = data.lastCharged === null ? undefined : state.openedAt - data.lastCharged
  const found = explanations(
    { differenceMg: difference.value * MG_PER_KG, sigmaMg: (difference.sigma ?? 0) * MG_PER_KG },
    plateOf(data, state),
    tableOf(gas),
    {
      ...(expected && { expectedMg: expected.value * MG_PER_KG }),
      ...(data.booksBefore && plate && { beyondMg: data.booksBefore.massMg - plate.massMg }),
      ...(lastMs !== undefined && { days: Math.floor(lastMs / DAY_MS) }),
    },
  )
  if (found.length === 0) return null
  const words = (each: Explanation): string => {
    const mass = show('weight', each.massMg)
    switch (each.kind) {
      case 'line':
        return `${show('length', each.lengthM)} more of ${each.od} in liquid line: ${mass}`
      case 'drier':
        return `a liquid-line drier that nobody entered, with about ${show('volume', each.shellMl)} of shell: ${mass}`
      case 'addition':
        return `added earlier, by the books: ${mass}`
      case 'leak':
        return `a leak: ${percent(each.share)} of the charge in ${each.days} days, ${each.perYear >= 1 ? 'more than all of it' : percent(each.perYear)} in a year`
      case 'plate':
        // As it would be printed, whichever units are read in.
        return `if the plate means ${each.notation === 'lb' ? `${massNumber(each.massMg, 'lb').slice(0, -2)} lb` : formatWeight(each.massMg, 'lb-oz')}: ${mass}`
    }
  }
  return (
    <div className="mt-1">
      What would explain the difference:
      <ul className="mb-0">
        {found.map((each) => (
          <li key={words(each)}>{words(each)}</li>
        ))}
      </ul>
    </div>
  )
}
