import { useState } from 'react'
import { Button } from 'react-bootstrap'
import { Form, useNavigation } from 'react-router'
import { v4 as uuid } from 'uuid'
import type { AskedReweigh } from '#core/cylinders'
import type { CylinderRow } from '#db'
import type { Refused } from '~/base/form/read.server'
import { Field, SelectField } from '~/base/ui/field'
import { MeasureField } from '~/base/ui/measure-field'
import { useShow } from '~/base/ui/reader'
import { CONDITION_WORDS } from '~/words/en'
import type { Voucher } from './vouchers.server'

/** What was sent, with what is wrong with it, or asked about it. */
export type RefusedVoucher = Refused & { asked?: AskedWeight | undefined }

type AskedWeight = AskedReweigh & { weightMg: number }

interface VoucherFormsProps {
  cylinder: CylinderRow
  refused?: RefusedVoucher | undefined
}

const TITLES: Record<Voucher['kind'], string> = {
  reweigh: 'Re-weigh',
  prepare: 'Prepare it for gas',
  explain: 'Say why scale and books differ',
  purchase: 'Bought gas in it',
  shipment: 'Ship to a reclaimer',
  recondition: 'Emptied and evacuated: free for another gas',
  judge: 'Judge what it holds',
  retire: 'Retire the cylinder',
}

/** What can happen to a cylinder outside of jobs: short forms, booked like everything else. */
export function VoucherForms({ cylinder, refused }: VoucherFormsProps) {
  const kinds: Voucher['kind'][] = [
    'reweigh',
    ...(cylinder.kind !== 'one-way' && cylinder.balanceMg <= 0 ? (['prepare'] as const) : []),
    ...(cylinder.offMg !== 0 ? (['explain'] as const) : []),
    ...(cylinder.kind === 'virgin' || cylinder.kind === 'one-way' ? (['purchase'] as const) : []),
    'shipment',
    ...(cylinder.kind !== 'one-way' && cylinder.refrigerant ? (['recondition'] as const) : []),
    ...(cylinder.refrigerant ? (['judge'] as const) : []),
    'retire',
  ]
  return (
    <section className="sheet stack" style={{ gap: '0.25rem' }}>
      <h2>Book</h2>
      {kinds.map((kind) => (
        <VoucherForm
          key={kind}
          kind={kind}
          cylinder={cylinder}
          refused={refused?.typed.kind === kind ? refused : undefined}
        />
      ))}
    </section>
  )
}

function VoucherForm({ kind, cylinder, refused }: VoucherFormsProps & { kind: Voucher['kind'] }) {
  const busy = useNavigation().state !== 'idle'
  const show = useShow()
  // Sending it twice books once; a booked form gets a new id when its page comes back.
  const [voucherId] = useState(() => refused?.typed.voucherId ?? uuid())
  const error = refused?.errors[kind]
  return (
    <details open={refused !== undefined}>
      <summary style={{ minHeight: '2.75rem', display: 'list-item', alignContent: 'center' }}>
        {TITLES[kind]}
      </summary>
      <Form
        method="post"
        className="stack mb-3"
        style={{ gap: '0.75rem' }}
        key={`${cylinder.balanceMg} ${voucherId}`}
      >
        <input type="hidden" name="kind" value={kind} />
        <input type="hidden" name="voucherId" value={voucherId} suppressHydrationWarning />
        <input type="hidden" name="version" value={cylinder.version} />
        {kind === 'reweigh' && (
          <MeasureField
            name="weight"
            kind="weight"
            label="The scale shows (gross)"
            value={refused?.typed.weight}
            error={error}
            help={`By the books ${show('weight', cylinder.tareMg + cylinder.balanceMg)}. The difference is booked as unexplained.`}
          />
        )}
        {kind === 'prepare' && <PrepareFields cylinder={cylinder} refused={refused} error={error} />}
        {kind === 'purchase' && (
          <MeasureField
            name="weight"
            kind="weight"
            label="Net, as delivered"
            value={refused?.typed.weight}
            error={error}
          />
        )}
        {refused?.asked && <Meant asked={refused.asked} />}
        {kind === 'shipment' && (
          <MeasureField
            name="weight"
            kind="weight"
            label="Net, as shipped"
            value={refused?.typed.weight}
            error={error}
            help={`The books have ${show('weight', cylinder.balanceMg)} in it.`}
          />
        )}
        {kind === 'explain' && (
          <p className="mb-0">
            The scale saw {show('weight', Math.abs(cylinder.offMg))} {cylinder.offMg > 0 ? 'more' : 'less'}{' '}
            than tare and books say. The books stay as they are: re-weigh it where gas is missing or too much.
          </p>
        )}
        {kind === 'retire' && cylinder.balanceMg > 0 && (
          <SelectField
            name="rest"
            label={`What becomes of the ${show('weight', cylinder.balanceMg)} in it`}
            value={refused?.typed.rest}
            options={[
              ['reclaimer', 'It goes to the reclaimer with the cylinder'],
              ['lost', 'It is lost'],
            ]}
          />
        )}
        {kind === 'judge' && (
          <SelectField
            name="condition"
            label="What it holds is"
            value={refused?.typed.condition ?? cylinder.condition}
            options={Object.entries(CONDITION_WORDS)}
          />
        )}
        {['retire', 'recondition', 'judge', 'explain'].includes(kind) && error && (
          <div className="field-error">{error}</div>
        )}
        <Field
          name="text"
          label={
            {
              purchase: 'Supplier, invoice',
              shipment: 'Reclaimer, papers',
              judge: 'How it was found out',
              explain: 'Why: a hose that hung on it, another cap, a worn collar',
            }[kind as string] ?? 'Remark'
          }
          value={refused?.typed.text}
          maxLength={500}
        />
        <div>
          <Button type="submit" disabled={busy} variant={kind === 'retire' ? 'outline-danger' : 'primary'}>
            {TITLES[kind]}
          </Button>
        </div>
      </Form>
    </details>
  )
}

/** Another weight with the same digits, or that it is so. */
function Meant({ asked: { weightMg, insteadMg } }: { asked: AskedWeight }) {
  const show = useShow()
  return (
    <div className="row-of">
      {insteadMg.map((mg) => (
        <Button key={mg} type="submit" name="meant" value={mg} className="btn-big">
          I meant {show('weight', mg)}
        </Button>
      ))}
      <Button type="submit" name="sure" value={weightMg} variant="outline-primary" className="btn-big">
        It does show {show('weight', weightMg)}
      </Button>
    </div>
  )
}

/** Kit first, then the cylinder, then the scale: in the order of the work. */
function PrepareFields({
  cylinder,
  refused,
  error,
}: {
  cylinder: CylinderRow
  refused?: Refused | undefined
  error: string | undefined
}) {
  const show = useShow()
  return (
    <>
      <MeasureField
        name="proved"
        kind="vacuum"
        label="Pump, hoses and gauge alone reached"
        value={refused?.typed.proved}
        help="Against the closed cylinder, below 500 micron, and it stays there."
      />
      <MeasureField
        name="pulled"
        kind="vacuum"
        label="The cylinder was pulled to"
        value={refused?.typed.pulled}
        help="Gauge at the cylinder. Then its valves shut first, before anything is taken off."
      />
      <MeasureField
        name="weight"
        kind="weight"
        label="Empty, it weighs"
        value={refused?.typed.weight}
        help={`Stamped ${show('weight', cylinder.tareMg)}.`}
      />
      <SelectField
        name="left"
        label="It was left"
        value={refused?.typed.left}
        options={[
          ['vacuum', 'in vacuum: it draws the first part of a charge for nothing'],
          ['vapour', 'broken with a little vapour of its gas: nothing is drawn in if a valve leaks'],
        ]}
      />
      {error && <div className="field-error">{error}</div>}
    </>
  )
}
