import { useState } from 'react'
import { Button } from 'react-bootstrap'
import { Form, useNavigation } from 'react-router'
import { v4 as uuid } from 'uuid'
import { type ActCode, isComparison, KINDS_OF_KIT, READS } from '#core/kit'
import type { KitRow } from '#db'
import type { Refused } from '~/base/form/read.server'
import { Field, SelectField } from '~/base/ui/field'
import { MeasureField } from '~/base/ui/measure-field'
import { ACT_WORDS } from '~/words/en'

interface ActFormsProps {
  piece: Pick<KitRow, 'kind' | 'lastGas'>
  /** Cylinders that what it holds may go into. */
  cylinders: { cylinderId: string; label: string }[]
  refused?: Refused | undefined
  /** What is due: open at once. */
  due: ActCode | null
}

/** What can be done with a piece of kit, each with how to do it in two lines. */
export function ActForms({ piece, cylinders, refused, due }: ActFormsProps) {
  const acts = KINDS_OF_KIT[piece.kind].acts.filter((each) => each !== 'decided')
  if (acts.length === 0) return null
  return (
    <section className="sheet stack" style={{ gap: '0.25rem' }}>
      <h2>Note</h2>
      {acts.map((what) => (
        <ActForm
          key={what}
          what={what}
          cylinders={cylinders}
          lastGas={piece.lastGas}
          open={what === due}
          refused={refused?.typed.what === what ? refused : undefined}
        />
      ))}
    </section>
  )
}

interface ActFormProps {
  what: ActCode
  cylinders: ActFormsProps['cylinders']
  lastGas: string | null
  open: boolean
  refused: Refused | undefined
}

function ActForm({ what, cylinders, lastGas, open, refused }: ActFormProps) {
  const busy = useNavigation().state !== 'idle'
  const [actId] = useState(() => refused?.typed.actId ?? uuid())
  const { name, how } = ACT_WORDS[what]
  const error = refused?.errors[what]
  const field = (of: string) => ({ name: of, value: refused?.typed[of] })
  return (
    <details open={open || error !== undefined}>
      <summary>{name}</summary>
      <Form method="post" className="form-column" preventScrollReset>
        <input type="hidden" name="what" value={what} />
        <input type="hidden" name="actId" value={actId} />
        <p className="quiet mb-0">
          {how[0]}
          <br />
          {how[1]}
        </p>
        {isComparison(what) && (
          <>
            {what !== 'zero-check' && (
              <MeasureField
                {...field('known')}
                value={refused?.typed.known ?? (what === 'temperature-check' ? '0 C' : '')}
                kind={READS[what]}
                label={what === 'scale-check' ? 'Known weight' : 'It should be'}
              />
            )}
            <MeasureField {...field('read')} kind={READS[what]} label="It reads" />
          </>
        )}
        {(what === 'calibrated' || what === 'seals-looked') && (
          <SelectField
            {...field('passed')}
            label="It was"
            options={[
              ['', 'Choose'],
              ['yes', 'good'],
              ['no', 'not good'],
            ]}
          />
        )}
        {what === 'hours-run' && (
          <Field {...field('hours')} label="Hours" inputMode="decimal" maxLength={10} />
        )}
        {what === 'bottle-level' && <MeasureField {...field('ml')} kind="volume" label="Left in it" />}
        {what === 'purged' && (
          <>
            <SelectField
              {...field('cylinderId')}
              label={`Into which cylinder${lastGas ? ` of ${lastGas}` : ''}`}
              options={[
                ['', 'none: nothing was left in it, or it was let go'],
                ...cylinders.map((c): [string, string] => [c.cylinderId, c.label]),
              ]}
            />
            <MeasureField
              {...field('mass')}
              kind="weight"
              label="How much"
              help="What the scale under the cylinder gained. Left empty, nothing is booked as gained."
            />
          </>
        )}
        <Field {...field('on')} label="When" type="date" help="Left empty: now." />
        <Field {...field('text')} label="Remark" maxLength={500} />
        {error && (
          <p className="field-error mb-0" role="alert">
            {error}
          </p>
        )}
        <div>
          <Button type="submit" disabled={busy}>
            Note it
          </Button>
        </div>
      </Form>
    </details>
  )
}
