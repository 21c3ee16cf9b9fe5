import type {
  Ask,
  HandAnswer,
  PlannedStep,
  ProgrammeOrder,
  StationReadings,
  StationReport,
  Stop,
} from '#core/programme'
import type { Channel } from '#core/samples'
import { step } from '../plant'
import { sensorsOf, sensorsWith } from '../sensors'
import { RUNS } from './runs'
import { arrive, begun, fresh, rest, type StationSetup, type StationState } from './state'

/** What a report says apart from when. */
export type Said = Omit<StationReport, 'at'>

/** A service station with its vehicle: goes on step by step, asks for hands, and says what it does. */
export interface Station {
  state: StationState
  /** Goes on by one step of the plant. */
  advance(): Said[]
  order(order: ProgrammeOrder): Said[]
  answer(ask: Ask, say: HandAnswer): Said[]
  stop(why: Stop): Said[]
  read(): Partial<Record<Channel, number>>
}

/** A step in which nothing flows to or from the tank: the scale has to stand. */
const STILL: ReadonlySet<PlannedStep['step']> = new Set(['oil-out', 'vacuum', 'hold', 'oil-in', 'dye'])
const TOUCHED_KG = 0.1
const VACUUM_GAUGE_PA = 20_000

export function stationOf(setup: StationSetup, seed: number, kept?: StationState): Station {
  const state = kept ?? fresh(setup)
  const sensors = sensorsOf(
    sensorsWith({
      scale: { tareKg: setup.tank.tareKg, divisionKg: setup.tank.divisionKg },
      low: { fullScalePa: 12e5, classPct: 1, at: 'system' },
      high: { fullScalePa: 35e5, classPct: 1, at: 'system' },
      vacuum: { at: 'system', accuracyPct: 5, mostPa: 110_000 },
    }),
    seed,
  )
  const said: Said[] = []
  const out = () => said.splice(0)
  const report = (what: Omit<Said, 'nr'>) => said.push({ nr: ++state.nr, ...what })
  const read = (): Partial<Record<Channel, number>> => {
    const { vacuum, ...said } = sensors.read(state.parameters, state.plant)
    // Its vacuum gauge is shut off above that; the probe in the vent reads the air around while nothing blows.
    const deep = vacuum !== undefined && vacuum <= VACUUM_GAUGE_PA
    return { vent: said.ambient!, ...said, ...(deep && { vacuum }) }
  }
  const now = () => state.plant.seconds

  function enter(index: number) {
    const order = state.order!
    state.at = index
    state.doing = begun(now())
    state.stoodKg = null
    const planned = order.steps[index]
    if (!planned) return end('finished')
    report({ kind: 'began', step: planned.step, readings: { ...weighed(), ...pressures() } })
  }

  function end(how: 'finished' | 'stopped', why?: Stop, read: StationReadings = {}) {
    const planned = state.order?.steps[state.at]
    const curve = planned?.step === 'hold' ? { curve: state.doing.curve } : {}
    rest(state.plant)
    report({
      kind: 'ended',
      how,
      ...(why && { why }),
      ...(how === 'stopped' && planned && { step: planned.step }),
      readings: { ...weighed(), ...pressures(), ...curve, ...read },
    })
    state.order = null
    state.ask = null
  }

  const weighed = (): StationReadings => {
    const weightKg = read().weight
    return weightKg === undefined ? {} : { weightKg }
  }
  const pressures = (): StationReadings => {
    const { low, vacuum } = read()
    return { ...(low !== undefined && { lowPa: low }), ...(vacuum !== undefined && { vacuumPa: vacuum }) }
  }

  return {
    state,
    read,
    order(order) {
      if (state.order) return out()
      if (state.vehicleOf !== order.vehicle) arrive(setup, state, order)
      state.order = order
      state.nr = 0
      if (order.refrigerant !== setup.tank.refrigerant) end('stopped', 'does-not-know')
      else {
        state.at = -1
        asks('hoses-on')
      }
      return out()
    },
    answer(ask, say) {
      if (state.ask !== ask) return out()
      state.ask = null
      if (say === 'no') end('stopped', 'answered-no')
      else if (state.at < 0) enter(0)
      else state.doing.answered = ask
      return out()
    },
    stop(why) {
      if (state.order) end('stopped', why)
      return out()
    },
    advance() {
      step(state.parameters, state.plant)
      const planned = state.order?.steps[state.at]
      if (!planned || state.ask) return out()
      const touched = wasTouched(planned)
      if (touched) end('stopped', 'scale-touched')
      else carryOn(planned)
      return out()
    },
  }

  function asks(ask: Ask) {
    state.ask = ask
    const step = state.order!.steps[state.at]?.step
    report({
      kind: 'asks',
      ask,
      ...(step && { step }),
      ...(ask === 'look-at-hold' && { readings: { ...pressures(), curve: state.doing.curve } }),
    })
  }

  function carryOn(planned: PlannedStep) {
    const { doing } = state
    const turn = RUNS[planned.step](planned, {
      state,
      setup,
      forS: now() - doing.sinceS,
      read: read,
      enter(phase) {
        doing.phase = phase
        doing.sinceS = now()
        delete doing.answered
      },
    })
    if (!turn) return
    if ('ask' in turn) asks(turn.ask)
    else if ('stop' in turn) end('stopped', turn.stop, turn.readings)
    else {
      report({ kind: 'done', step: planned.step, readings: { ...weighed(), ...turn.done } })
      enter(state.at + 1)
    }
  }

  function wasTouched({ step: name }: PlannedStep): boolean {
    if (!STILL.has(name)) return false
    const kg = read().weight
    if (kg === undefined) return false
    state.stoodKg ??= kg
    return Math.abs(kg - state.stoodKg) > TOUCHED_KG
  }
}
