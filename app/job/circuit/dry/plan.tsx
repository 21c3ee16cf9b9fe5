import { type FormEvent, useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { ambientAt, innerVolume, type VacuumMethod, type VacuumPlan } from '#core/tape'
import { PA_PER_MICRON } from '#core/units'
import type { SetUp } from '#core/vacuum'
import { HOSE_BORE_M } from '#core/hoses'
import { draft } from '~/tape/draft'
import { KINDS } from '~/slide-rule/kinds'
import { useReadersUnits, Value } from '~/base/ui/reader'
import { VACUUM_METHOD_WORDS } from '~/words/en'
import { useJob, useJudging } from '~/job/field/job-context'

const USUAL: Omit<VacuumPlan, 'volumeM3'> = {
  method: 'single',
  gaugeAt: 'system',
  hose: '3/8',
  lengthM: 1.5,
  coresOut: true,
  pumpM3S: 2.4e-3,
  targetPa: 500 * PA_PER_MICRON,
  targetFrom: 'shop',
}
/** What a pump reaches by itself, absolute Pa, where its proof did not say. */
const ULTIMATE_PA = 2
/** What is pumped at where nobody knows, m3. */
const SOME_VOLUME = { least: 5e-3, most: 20e-3 }
const DEEP_PA = 200 * PA_PER_MICRON

/** How it is pumped, as planned or as is usual, for whoever reckons with it. */
export function usePumping(): { plan: VacuumPlan; setUp: SetUp; guessedVolume: boolean; ambientK?: number } {
  const { state, data } = useJob()
  const judging = useJudging()
  const vehicle = data.system?.trade === 'vehicle'
  const plan: VacuumPlan = state.vacuumPlan ?? { ...USUAL, method: vehicle ? 'timed' : USUAL.method }
  const volumeM3 = innerVolume(state, judging)
  const proof = state.kitProofs.at(-1)
  const ambientK = ambientAt(state, state.lastAt)
  return {
    plan,
    setUp: {
      boreM: HOSE_BORE_M[plan.hose]!,
      lengthM: plan.lengthM,
      cores: plan.coresOut ? 0 : 1,
      pumpM3S: plan.pumpM3S,
      ultimatePa: Math.min(proof?.reachedPa ?? ULTIMATE_PA, 0.5 * plan.targetPa),
      volumeM3: volumeM3 ?? SOME_VOLUME,
    },
    guessedVolume: plan.volumeM3 === undefined,
    ...(ambientK !== undefined && { ambientK }),
  }
}

/** The plan in one line, and its form behind a tap. */
export function VacuumPlanCard() {
  const { state, closed } = useJob()
  const { plan, setUp, guessedVolume } = usePumping()
  const [open, setOpen] = useState(false)
  const reading = useReadersUnits()
  const { least, most } = setUp.volumeM3
  const litres = (m3: number) => KINDS.capacity.show(m3, reading)
  return (
    <section className="plan-line" aria-label="How it is pumped">
      <div className="spread">
        <p className="mb-0">
          <strong>{VACUUM_METHOD_WORDS[plan.method]}</strong>
          {plan.method !== 'timed' && (
            <>
              , down to <Value kind="vacuum" of={plan.targetPa} />
            </>
          )}
          <span className="quiet">
            ; {plan.hose} in hose, cores {plan.coresOut ? 'out' : 'in'}, gauge at the {plan.gaugeAt}; about{' '}
            {guessedVolume ? `${litres(least)} to ${litres(most)}, from the charge` : litres(least)}
            {!state.vacuumPlan && '; as is usual'}
          </span>
        </p>
        {!closed && (
          <Button variant="outline-secondary" onClick={() => setOpen(!open)} aria-expanded={open}>
            {open ? 'Leave it' : 'Change it'}
          </Button>
        )}
      </div>
      {open && <PlanForm plan={plan} done={() => setOpen(false)} />}
    </section>
  )
}

function PlanForm({ plan, done }: { plan: VacuumPlan; done: () => void }) {
  const { note } = useJob()
  const reading = useReadersUnits()
  const [errors, setErrors] = useState<Record<string, string>>({})
  const [method, setMethod] = useState<VacuumMethod>(plan.method)
  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault()
    const form = new FormData(event.currentTarget)
    const text = (name: string) => String(form.get(name) ?? '').trim()
    const found: Record<string, string> = {}
    const read = (
      name: string,
      kind: 'vacuum' | 'flow' | 'capacity' | 'length',
      least: number,
      most: number,
    ) => {
      if (text(name) === '') return undefined
      try {
        const value = KINDS[kind].read(text(name), reading)
        if (value >= least && value <= most) return value
        found[name] = `Between ${KINDS[kind].show(least, reading)} and ${KINDS[kind].show(most, reading)}.`
      } catch (error) {
        found[name] = (error as Error).message
      }
      return undefined
    }
    const targetPa = read('target', 'vacuum', 1, 5_000) ?? (method === 'deep' ? DEEP_PA : USUAL.targetPa)
    const pumpM3S = read('pump', 'flow', 1e-5, 0.1) ?? plan.pumpM3S
    const lengthM = read('length', 'length', 0.1, 50) ?? plan.lengthM
    const volumeM3 = read('volume', 'capacity', 1e-5, 50)
    setErrors(found)
    if (Object.keys(found).length > 0) return
    note([
      draft('vacuum-planned', {
        method,
        gaugeAt: text('gaugeAt') === 'pump' ? 'pump' : 'system',
        hose: text('hose') as VacuumPlan['hose'],
        lengthM,
        coresOut: text('cores') === 'out',
        pumpM3S,
        ...(volumeM3 !== undefined && { volumeM3 }),
        targetPa,
        targetFrom: text('from') as VacuumPlan['targetFrom'],
      }),
    ])
    done()
  }
  const field = (name: string, label: string, value: string, help?: string) => (
    <Form.Group className="field">
      <Form.Label htmlFor={`vacuum-${name}`}>{label}</Form.Label>
      <Form.Control id={`vacuum-${name}`} name={name} defaultValue={value} maxLength={30} />
      {errors[name] && <div className="field-error">{errors[name]}</div>}
      {help && <div className="field-help">{help}</div>}
    </Form.Group>
  )
  const choice = (name: string, label: string, value: string, options: Record<string, string>) => (
    <Form.Group className="field">
      <Form.Label htmlFor={`vacuum-${name}`}>{label}</Form.Label>
      <Form.Select id={`vacuum-${name}`} name={name} defaultValue={value}>
        {Object.entries(options).map(([code, words]) => (
          <option key={code} value={code}>
            {words}
          </option>
        ))}
      </Form.Select>
    </Form.Group>
  )
  return (
    <form onSubmit={submit} className="stack mt-2">
      <div className="tap-row" role="group" aria-label="How">
        {(Object.keys(VACUUM_METHOD_WORDS) as VacuumMethod[]).map((each) => (
          <Button
            key={each}
            variant={each === method ? 'primary' : 'outline-primary'}
            aria-pressed={each === method}
            onClick={() => setMethod(each)}
          >
            {VACUUM_METHOD_WORDS[each]}
          </Button>
        ))}
      </div>
      <p className="quiet mb-0">{METHOD_WHY[method]}</p>
      <div className="form-grid">
        {field('target', 'Down to', KINDS.vacuum.show(method === 'deep' ? DEEP_PA : plan.targetPa, reading))}
        {choice('from', 'That figure is', plan.targetFrom, {
          shop: 'the shop’s usual',
          maker: 'the maker’s',
          profile: 'the rule profile’s',
        })}
        {choice('gaugeAt', 'The gauge sits', plan.gaugeAt, { system: 'at the system', pump: 'at the pump' })}
        {choice('hose', 'Hose', plan.hose, { '1/4': '1/4 in', '3/8': '3/8 in', '1/2': '1/2 in' })}
        {field('length', 'Its length', KINDS.length.show(plan.lengthM, reading))}
        {choice('cores', 'Valve cores', plan.coresOut ? 'out' : 'in', { out: 'out', in: 'in' })}
        {field('pump', 'Pump, free air', KINDS.flow.show(plan.pumpM3S, reading))}
        {field(
          'volume',
          'Inner volume',
          plan.volumeM3 === undefined ? '' : KINDS.capacity.show(plan.volumeM3, reading),
          'Empty: 3 to 7 litres for each kilogram of charge.',
        )}
      </div>
      <div>
        <Button type="submit">Take this plan</Button>
      </div>
    </form>
  )
}

const METHOD_WHY: Record<VacuumMethod, string> = {
  single: 'For a circuit that was open for minutes, and dry: the usual way.',
  deep: 'Where the maker wants it lower: it takes longer at the end, and shows smaller faults.',
  triple:
    'For a wet circuit, a flood, a burnt compressor: nitrogen carries the water out that a vacuum alone leaves behind.',
  timed:
    'As vehicles are done: 20 to 30 minutes, then 5 to 15 minutes held on the manifold gauge. It sees large leaks only.',
}
