import { useState } from 'react'
import { Button, Form as BootstrapForm } from 'react-bootstrap'
import { Form, useNavigation } from 'react-router'
import { v4 as uuid } from 'uuid'
import type { DecantQuestion } from '#core/cylinders'
import type { CylinderRow, givers } from '#db'
import type { countersigners } from '~/base/session/countersign.server'
import type { Refused } from '~/base/form/read.server'
import { Field, SelectField } from '~/base/ui/field'
import { typed as inUnits } from '~/base/ui/measure'
import { MeasureField } from '~/base/ui/measure-field'
import { useReadersUnits, useShow } from '~/base/ui/reader'
import { CONDITION_WORDS, CYLINDER_KIND_WORDS, DECANT_ANSWERS, inSentence } from '~/words/en'

interface Decanted {
  cylinder: CylinderRow
  givers: Awaited<ReturnType<typeof givers>>
  /** What the scale showed last, with the taker on it, mg. */
  fromMg: number | null
  /** Who may sign for a trainee; null: this person signs for himself. */
  signers: Awaited<ReturnType<typeof countersigners>> | null
}

/** One weighing: which cylinder gives, and what the scale showed before and after. */
export function DecantForm({
  loaded: { cylinder, givers, fromMg, signers },
  refused,
}: {
  loaded: Decanted
  refused: (Refused & { asked?: DecantQuestion }) | undefined
}) {
  const show = useShow()
  const units = useReadersUnits()
  const busy = useNavigation().state !== 'idle'
  const [voucherId] = useState(() => refused?.typed.voucherId ?? uuid())
  const [giverId, setGiverId] = useState(refused?.typed.giverId ?? '')
  const giver = givers.find((each) => each.cylinderId === giverId)
  const typed = refused?.typed
  const errors = refused?.errors ?? {}
  return (
    <Form method="post" className="stack">
      <input type="hidden" name="voucherId" value={voucherId} suppressHydrationWarning />
      <BootstrapForm.Group className="field">
        <BootstrapForm.Label htmlFor="giver">It comes from</BootstrapForm.Label>
        <BootstrapForm.Select
          id="giver"
          name="giverId"
          value={giverId}
          onChange={(event) => setGiverId(event.target.value)}
        >
          <option value="">Choose</option>
          {givers.map((each) => (
            <option key={each.cylinderId} value={each.cylinderId}>
              {each.label}: {each.refrigerant}, {inSentence(CYLINDER_KIND_WORDS[each.kind])},{' '}
              {inSentence(CONDITION_WORDS[each.condition])}, {show('weight', each.balanceMg)} by the books
            </option>
          ))}
        </BootstrapForm.Select>
        {errors.giverId && <div className="field-error">{errors.giverId}</div>}
        {giver?.kind === 'one-way' && (
          <div className="field-help">
            Upright, vapour only: an “empty” still holds 0.3 to 1 kg. Gloves and goggles.
          </div>
        )}
      </BootstrapForm.Group>
      <SelectField
        name="on"
        label="On the scale stands"
        value={typed?.on ?? 'taker'}
        options={[
          ['taker', `${cylinder.label}, which takes`],
          ['giver', 'the one that gives'],
        ]}
      />
      <MeasureField
        name="before"
        kind="weight"
        label="The scale showed before"
        value={typed?.before ?? (fromMg === null ? undefined : inUnits('weight', fromMg, units))}
        error={errors.before}
        help={`By the books ${cylinder.label} weighs ${show('weight', cylinder.tareMg + cylinder.balanceMg)}.`}
      />
      <MeasureField
        name="after"
        kind="weight"
        label="The scale showed after"
        value={typed?.after}
        error={errors.after}
      />
      {giver?.kind === 'one-way' && (
        <BootstrapForm.Check
          id="scrapped"
          name="scrapped"
          label="Rendered useless: relief disc opened with eye protection and a cheap tool, marked, metal to recycling"
        />
      )}
      <Field name="text" label="Remark" value={typed?.text} maxLength={500} />
      {signers && (
        <>
          <SelectField
            name="countersigner"
            label="Countersigned by"
            value={typed?.countersigner ?? ''}
            error={errors.countersigner}
            options={[['', 'Choose'], ...signers.map((each): [string, string] => [each.userId, each.name])]}
          />
          <Field
            name="countersignPassword"
            label="Their password"
            type="password"
            autoComplete="off"
            value=""
            error={errors.countersignPassword}
          />
        </>
      )}
      {errors.form && (
        <div className="field-error" role="alert">
          {errors.form}
        </div>
      )}
      {errors.sure && (
        <div className="field-error" role="alert">
          {errors.sure}
          {refused?.asked === 'before-off-the-books' && typed?.on !== 'giver' && (
            <>
              {' '}
              By the books {cylinder.label} weighs {show('weight', cylinder.tareMg + cylinder.balanceMg)}.
            </>
          )}
        </div>
      )}
      <div className="row-of">
        <Button type="submit" className="btn-big" disabled={busy}>
          Book it
        </Button>
        {refused?.asked && (
          <Button
            type="submit"
            name="sure"
            value={[...(typed?.sure ? [typed.sure] : []), refused.asked].join()}
            variant="outline-primary"
            className="btn-big"
            disabled={busy}
          >
            {DECANT_ANSWERS[refused.asked]}
          </Button>
        )}
      </div>
    </Form>
  )
}
