import { type FormEvent, useState } from 'react'
import { Button } from 'react-bootstrap'
import { draft } from '~/tape/draft'
import { MeasureInput } from '~/base/ui/measure-field'
import { day } from '~/base/ui/time'
import { useJob } from '~/job/field/job-context'
import { useFigure, useWordsTyped } from '~/job/field/use-figure'
import { BottleChoice, useBottles } from './bottles'

/** UV dye, in millilitres, once in the life of a system. */
export function Dye() {
  const { state, data, note } = useJob()
  const bottles = useBottles('dye')
  const [bottleId, setBottle] = useWordsTyped('dye bottle')
  const [again, setAgain] = useState(false)
  const amount = useFigure('volume', 'dye')
  const bottle = bottles.find((each) => each.kitId === bottleId)
  const before = state.dyed
    ? 'Dye is in it: by this job.'
    : data.dyedAt !== null
      ? `Dye is in it since ${day(data.dyedAt, data.shop.timeZone)}.`
      : undefined
  const submit = (event: FormEvent) => {
    event.preventDefault()
    const volumeMl = amount.want()
    if (volumeMl === undefined || volumeMl <= 0) return
    note([draft('dye-noted', { volumeMl, text: '', ...(bottle && { bottleId: bottle.kitId }) })])
    amount.clear()
    setAgain(false)
  }
  return (
    <details>
      <summary>Dye</summary>
      <div className="stack mt-2" style={{ gap: '0.5rem' }}>
        {before && (
          <p className="mb-0">
            <strong>{before}</strong> Once is enough: more of it only thins the oil.{' '}
            {!again && (
              <Button variant="link" className="p-0" onClick={() => setAgain(true)}>
                It was drained with the oil: dye it anew
              </Button>
            )}
          </p>
        )}
        {(!before || again) && (
          <form onSubmit={submit} className="row-of" style={{ alignItems: 'end' }}>
            <MeasureInput {...amount.field} label="Dye put in" />
            <BottleChoice id="dye-bottle" bottles={bottles} chosen={bottle} choose={setBottle} />
            <Button type="submit" variant="outline-primary" className="btn-big">
              Note the dye
            </Button>
          </form>
        )}
      </div>
    </details>
  )
}
