import type { FormEvent } from 'react'
import { Button } from 'react-bootstrap'
import { tableOf } from '#core/refrigerants'
import { type Explanation, explanations } from '#core/systems'
import { formatWeight, massNumber, MG_PER_KG } from '#core/units'
import type { Verdict } from '#core/verdict'
import { draft } from '~/tape/use-tape'
import { MeasureInput } from '~/ui/measure-field'
import { useReadersUnits, useShow } from '~/ui/reader'
import { plateOf, useJob } from '../job-context'
import { useFigure } from '../stages/use-figure'

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

/** What would explain that more, or less, came out: worked out, not guessed at. */
export function Explained({ verdict }: { verdict: Verdict }) {
  const { data, state } = useJob()
  const show = useShow()
  const difference = verdict.numbers.find((each) => each.name === 'difference')
  const amiss = verdict.code === 'more-than-expected' || verdict.code === 'less-than-expected'
  if (!amiss || !difference || !state.refrigerant) return null
  const found = explanations(
    { differenceMg: difference.value * MG_PER_KG, sigmaMg: (difference.sigma ?? 0) * MG_PER_KG },
    plateOf(data, state),
    tableOf(state.refrigerant),
  )
  if (found.length === 0) return null
  const words = (each: Explanation): string =>
    each.kind === 'line'
      ? `${show('length', each.lengthM)} more of ${each.od} in liquid line: ${show('weight', each.massMg)}`
      : // As it would be printed, whichever units are read in.
        `if the plate means ${each.notation === 'lb' ? `${massNumber(each.massMg, 'lb').slice(0, -2)} lb` : formatWeight(each.massMg, 'lb-oz')}: ${show('weight', each.massMg)}`
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
