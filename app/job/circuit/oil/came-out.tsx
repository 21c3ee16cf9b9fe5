import { type FormEvent } from 'react'
import { Button } from 'react-bootstrap'
import { draft } from '~/tape/draft'
import { MeasureInput } from '~/base/ui/measure-field'
import { useShow } from '~/base/ui/reader'
import { useJob } from '~/job/field/job-context'
import { useFigure } from '~/job/field/use-figure'

/** What came out: by the drain bottle before and after, or measured by itself; and what old parts took with them. */
export function CameOut() {
  const { state, note } = useJob()
  const show = useShow()
  const before = useFigure('volume', 'drain before')
  const after = useFigure('volume', 'drain after')
  const measured = useFigure('volume', 'oil out')
  const parts = useFigure('volume', 'oil parts')
  const { beforeMl, afterMl } = state.drain
  const less = beforeMl !== undefined && after.value !== undefined && after.value < beforeMl
  const submit = (event: FormEvent) => {
    event.preventDefault()
    if (less) return
    const drafts = [
      ...(before.value === undefined
        ? []
        : [draft('drain-read', { when: 'before', volumeMl: before.value })]),
      ...(after.value === undefined ? [] : [draft('drain-read', { when: 'after', volumeMl: after.value })]),
      ...(measured.value === undefined
        ? []
        : [draft('oil-noted', { direction: 'out', volumeMl: measured.value, text: '' })]),
      ...(parts.value === undefined
        ? []
        : [draft('oil-noted', { direction: 'parts', volumeMl: parts.value, text: '' })]),
    ]
    if (drafts.length === 0) return
    note(drafts)
    for (const figure of [before, after, measured, parts]) if (figure.value !== undefined) figure.clear()
  }
  const known = (ml: number | undefined) => ml !== undefined && `noted: ${show('volume', ml)}`
  return (
    <form onSubmit={submit} className="stack" style={{ gap: '0.5rem' }}>
      <h3 className="mb-0">What came out</h3>
      <div className="form-grid">
        <MeasureInput {...before.field} label="Drain bottle before the recovery" help={known(beforeMl)} />
        <MeasureInput
          {...after.field}
          label="Drain bottle after it"
          help={known(afterMl)}
          error={
            less
              ? 'Less than before: was it emptied meanwhile? Read it again, or measure by itself.'
              : after.field.error
          }
        />
        <MeasureInput {...measured.field} label="Or measured by itself" />
        <MeasureInput
          {...parts.field}
          label="Old parts took, beside those under Repair"
          help={
            state.parts.some((each) => each.oilMl > 0) &&
            `under Repair: ${show(
              'volume',
              state.parts.reduce((sum, each) => sum + each.oilMl, 0),
            )}`
          }
        />
      </div>
      <div>
        <Button type="submit" variant="outline-primary" className="btn-big">
          Note what came out
        </Button>
      </div>
    </form>
  )
}
