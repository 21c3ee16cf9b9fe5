// What the tools conclude: each side of each limit, and what is refused.
import { describe, expect, it } from 'vitest'
import { aCylinderRecord } from '../../testing/a-cylinder-record'
import { METRIC_UNITS } from '#core/units'
import type { Cylinder } from '#core/cylinders'
import { workOut } from './work-out'
import { toolNamed } from './tools'

function ask(name: string, given: Record<string, string>, cylinders?: Cylinder[]) {
  const { outcome, errors, missing } = workOut(toolNamed(name)!, new URLSearchParams(given), {
    reading: { units: METRIC_UNITS },
    today: '2026-11-25',
    fillMarginPct: 0,
    ...(cylinders ? { cylinders } : {}),
  })
  return {
    says: outcome?.judgement?.words,
    outcome: outcome?.judgement?.outcome,
    reasons: outcome?.judgement?.reasons.join(' ') ?? '',
    hero: outcome?.hero.text,
    beside: outcome?.hero.beside ?? '',
    caution: outcome?.caution.join(' ') ?? '',
    data: outcome?.data ?? {},
    tables: outcome?.tables ?? [],
    errors: { ...errors, ...Object.fromEntries(missing.map(({ name }) => [name, 'missing'])) },
  }
}

describe('pressure hold', () => {
  const hold = (p2: string, more = {}) =>
    ask('pressure-hold', { p1: '24 bar', t1: '25 C', p2, t2: '15 C', held: '12 h', ...more })
  it('lets a fall by temperature alone pass, and says what it could have seen', () => {
    expect(hold('23.16 bar')).toMatchObject({ outcome: 'good' })
    expect(hold('23.16 bar').reasons).toMatch(/smallest leak.*bar a day; a smaller one/)
  })
  it('finds what goes beyond the instruments, either way', () => {
    expect(hold('22.5 bar')).toMatchObject({ outcome: 'bad', says: 'Pressure was lost' })
    expect(hold('24 bar').outcome).toBe('open')
    // A coarser clamp can no longer tell.
    expect(hold('22.5 bar', { clamp: '8 K' }).outcome).toBe('good')
  })
  it('sizes the smallest leak where the volume is known', () => {
    expect(hold('23.16 bar', { volume: '14 L' }).errors).toEqual({})
    expect(hold('23.16 bar', { held: '10 s' }).errors.held).toMatch(/^Between/)
  })
})

describe('fill', () => {
  const cylinder = { refrigerant: 'R-410A', wc: '21.6 kg', tare: '12 kg' }
  it('takes the lightest liquid for mixed or unknown contents', () => {
    expect(ask('fill', cylinder).hero).toBe('29.280 kg')
    // The lightest is R-290: 8.523 kg net, on a scale of 5 g.
    expect(ask('fill', { ...cylinder, contents: 'doubtful' }).hero).toBe('20.525 kg')
  })
  it('questions a water capacity that looks like the size in a name', () => {
    const named = { ...cylinder, wc: '30 lb' }
    expect(ask('fill', named).caution).toMatch(/is it the size in its name/)
    expect(ask('fill', { ...named, stamped: 'yes' }).caution).not.toMatch(/size in its name/)
    expect(ask('fill', cylinder).caution).not.toMatch(/size in its name/)
  })
})

describe('rebound', () => {
  const climbed = (p2: string, more = {}) =>
    ask('rebound', { refrigerant: 'R-22', p1: '-0.2 bar', p2, volume: '6 L', ...more })
  it('goes again above the level, and not below', () => {
    expect(climbed('0.9 bar')).toMatchObject({ outcome: 'caution', says: 'Go again' })
    expect(climbed('-0.19 bar').says).toBe('Within the level: done')
    expect(climbed('0.5 bar', { level: '0.6 bar' }).says).toMatch(/another pull still brings something/)
  })
  it('is too soon to tell under five minutes, unless it stands above the level already', () => {
    expect(climbed('-0.19 bar', { waited: '3 min' })).toMatchObject({
      outcome: 'open',
      says: 'Too soon to tell',
    })
    expect(climbed('-0.19 bar', { waited: '6 min' }).says).toBe('Within the level: done')
    expect(climbed('0.9 bar', { waited: '3 min' }).says).toBe('Go again')
  })
  it('mentions air where it could leak in', () => {
    expect(climbed('-0.1 bar').reasons).toMatch(/air that leaks in/)
    expect(climbed('0.9 bar').reasons).not.toMatch(/air/)
  })
  it('wants a rise', () => {
    expect(climbed('-0.5 bar').errors.p2).toMatch(/fell instead of rising/)
  })
})

describe('time left', () => {
  const notes = (...pairs: [number, number][]) =>
    Object.fromEntries(
      pairs.flatMap(([min, kg], i) => [
        [`note_${i + 1}_at`, `${min} min`],
        [`note_${i + 1}_weight`, `${kg} kg`],
      ]),
    )
  it('goes by what should come; without that it cannot tell, whatever the curve looks like', () => {
    expect(ask('time-left', notes([0, 0], [2, 1], [4, 1.6], [6, 1.95]))).toMatchObject({
      says: 'Cannot tell',
      hero: 'cannot tell',
    })
    expect(ask('time-left', { ...notes([0, 0], [2, 1], [4, 2]), expected: '1.9 kg' }).says).toBe(
      'All that was expected is out',
    )
    expect(ask('time-left', { ...notes([0, 0], [2, 1], [4, 2]), expected: '4 kg' }).says).toBe('Still coming')
    expect(ask('time-left', notes([0, 0], [2, 1], [4, 2])).hero).toBe('cannot tell')
    expect(ask('time-left', notes([0, 1], [2, 2], [4, 2])).says).toBe('Done, or stuck')
  })
  it('gives a range, never a point', () => {
    // 2 kg are left: 1.66 surely come, at half a kilogram a minute; 1.81 usually, and up to six times as long.
    expect(ask('time-left', { ...notes([0, 0], [2, 1], [4, 2]), expected: '4 kg' }).hero).toBe(
      '3 min to 22 min',
    )
  })
  it('what comes narrows it: liquid leaves vapour behind', () => {
    const of = (comes: string) =>
      ask('time-left', { ...notes([0, 0], [2, 1], [4, 2]), expected: '4 kg', comes }).hero
    // 1.66 and 1.81 kg at half a kilogram a minute: 2.5 to 9 times as long; 1 to 2.3 + 0.36 x 4 / 1.81.
    expect(of('liquid')).toBe('8 min to 33 min')
    expect(of('vapour')).toBe('3 min to 12 min')
  })
  it('wants three weights in order', () => {
    expect(ask('time-left', notes([0, 0], [2, 1])).errors.note_3_weight).toMatch(/Three weights/)
    expect(ask('time-left', notes([0, 0], [2, 1], [1, 2])).errors.note_3_at).toMatch(/must rise/)
  })
})

describe('superheat', () => {
  const base = { refrigerant: 'R-22' }
  it('judges a fixed orifice against the weather', () => {
    const wanted = { ...base, metering: 'fixed', wet: '67 F', outdoor: '95 F', low: '68.5 psi' }
    expect(ask('superheat', { ...wanted, suction: '53 F' }).says).toMatch(/where the orifice wants it/)
    expect(ask('superheat', { ...wanted, suction: '70 F' }).says).toBe('Superheat is high')
    expect(ask('superheat', { ...wanted, suction: '42 F' }).says).toBe('Superheat is low')
    expect(ask('superheat', { ...wanted, suction: '53 F', wet: '55 F' }).outcome).toBe('open')
  })
  it('judges a valve by subcooling, from the plate where it says one', () => {
    const valve = { ...base, high: '15 bar', metering: 'valve' }
    expect(ask('superheat', { ...valve, liquid: '36 C' }).outcome).toBe('good')
    expect(ask('superheat', { ...valve, liquid: '41 C' }).says).toBe('Subcooling is low')
    expect(ask('superheat', { ...valve, liquid: '29 C' }).says).toBe('Subcooling is high')
    expect(ask('superheat', { ...valve, liquid: '31 C', target: '11 K' }).outcome).toBe('good')
  })
  it('checks the vents of a vehicle, alone or beside the rest', () => {
    expect(ask('superheat', { ...base, vent: '7 C', inlet: '30 C' }).says).toBe('The vents are cold enough')
    expect(ask('superheat', { ...base, vent: '24 C', inlet: '30 C' }).says).toBe('The vents are warm')
    expect(
      ask('superheat', { ...base, high: '15 bar', liquid: '36 C', vent: '0 C', inlet: '30 C' }).reasons,
    ).toMatch(/Near ice/)
  })
  it('wants pairs, and a pressure that the gas can have', () => {
    expect(ask('superheat', { ...base, low: '4 bar' }).errors.suction).toMatch(/needs the temperature/)
    expect(ask('superheat', { ...base, suction: '4 C' }).errors.low).toMatch(/needs the low side/)
    expect(ask('superheat', { ...base, liquid: '30 C' }).errors.high).toMatch(/high side/)
    expect(ask('superheat', { ...base, vent: '9 C' }).errors.inlet).toMatch(/air that goes in/)
    expect(ask('superheat', base).errors.low).toMatch(/Enter a pressure/)
    expect(ask('superheat', { ...base, high: '70 bar', liquid: '30 C' }).errors.high).toMatch(
      /R-22 is tabulated/,
    )
  })
})

describe('leak rate', () => {
  const asked = (more: Record<string, string>) =>
    ask('leak-rate', { refrigerant: 'R-404A', full: '18 kg', profile: 'us', ...more })
  it('knows the triggers of each use', () => {
    const leaking = { add_1_mass: '2.4 kg', since: '210 days' }
    expect(asked({ ...leaking, use: 'commercial' })).toMatchObject({ outcome: 'bad' })
    expect(asked({ ...leaking, use: 'process' })).toMatchObject({
      outcome: 'caution',
      says: 'Below the trigger',
    })
    expect(asked({ add_1_mass: '0.3 kg', since: '360 days', use: 'commercial' }).outcome).toBe('good')
    expect(asked({}).says).toBe('The repair rule binds this charge')
  })
  it('leaves small charges and mild gases alone', () => {
    expect(asked({ full: '3 kg' }).reasons).toMatch(/binds charges from 6\.805 kg/)
    expect(asked({ refrigerant: 'R-290' }).reasons).toMatch(/53 or less/)
  })
  it('counts CO2 equivalent for the European Union, doubled with detection', () => {
    const eu = (more: Record<string, string>) => asked({ profile: 'eu', ...more }).says
    expect(eu({})).toBe('A leak check every 6 months')
    expect(eu({ detection: 'yes' })).toBe('A leak check every 12 months')
    expect(eu({ full: '1 kg' })).toBe('No regular leak checks by this rule')
    expect(eu({ full: '2 kg', hermetic: 'yes' })).toBe('No regular leak checks by this rule')
    expect(eu({ refrigerant: 'R-717' })).toBe('No leak checks by this rule')
  })
  it('dates additions, and sizes a slow leak', () => {
    const two = { add_1_mass: '1 kg', add_1_on: '2026-11-25', add_2_mass: '1 kg', add_2_on: '2026-05-25' }
    expect(asked(two).hero).toBe('11.0 % a year')
    expect(asked({ lost: '0.9 kg', over: '2 years' }).hero).toBe('2.5 % a year')
    expect(asked({ lost: '20 kg', over: '2 years' }).errors.lost).toMatch(/More than the full charge/)
    expect(asked({ lost: '1 kg' }).errors.over).toMatch(/how many days/)
  })
})

describe('oil', () => {
  it('counts what came out, parts, what went in already, and whole steps', () => {
    const parts = {
      part_1_part: 'condenser',
      part_1_count: '1',
      part_2_part: 'drier',
      part_2_count: '2',
      part_2_each: '20 mL',
    }
    expect(ask('oil', { out: '35', ...parts }).hero).toBe('105 mL')
    expect(ask('oil', { out: '35', ...parts }).beside).toMatch(/give or take/)
    expect(ask('oil', { out: '35', already: '50' })).toMatchObject({ hero: '15 mL' })
    expect(ask('oil', { out: '33', step: '5' }).beside).toMatch(/7 steps of 5 mL; 2 mL more/)
    expect(ask('oil', { out: '0' }).beside).toMatch(/nothing in/)
    // A part without a count is one.
    expect(ask('oil', { out: '35', part_1_part: 'hose', part_1_each: '10 mL' }).hero).toBe('45 mL')
    expect(ask('oil', { part_1_part: 'hose', part_1_count: '1.5' }).errors.part_1_count).toMatch(
      /whole number/,
    )
  })
  it('warns of dye and of high voltage, and wants the refrigerant for the type', () => {
    expect(ask('oil', { out: '5', dyed: 'yes' }).caution).toMatch(/do not dye twice/)
    expect(ask('oil', { out: '5', type: 'POE', drive: 'high-voltage' })).toMatchObject({ outcome: 'good' })
    expect(ask('oil', { out: '5', type: 'POE', drive: 'high-voltage' }).caution).toMatch(/Orange cables/)
    expect(ask('oil', { out: '5', type: 'POE', drive: 'stationary' }).errors.refrigerant).toMatch(
      /depends on it/,
    )
  })
})

describe('charge', () => {
  const base = { refrigerant: 'R-410A', target: '3 kg' }
  it('stops where hose and target say, zeroed or gross', () => {
    expect(ask('charge', { ...base, start: '20 kg' }).hero).toBe('17.000 kg')
    expect(ask('charge', base).hero).toBe('−3.000 kg')
    expect(ask('charge', { ...base, start: '2 kg' }).errors.start).toMatch(/weighs less/)
  })
  it('says what will not come out, and fears what the vacuum draws', () => {
    const cylinder = { cylinder: '11.9 L', net: '3.2 kg' }
    expect(ask('charge', { ...base, ...cylinder })).toMatchObject({ outcome: 'caution' })
    expect(ask('charge', { ...base, ...cylinder, net: '9 kg' }).says).toBe('This cylinder has enough')
    expect(ask('charge', { ...base, net: '9 kg', cylinder: '11.9 L', system: '14 L' }).caution).toMatch(
      /more can flow in/,
    )
    expect(ask('charge', { ...base, system: '14 L', tc: '5 C' }).caution).not.toMatch(/more can flow in/)
    expect(ask('charge', { refrigerant: 'R-290', target: '120 g' }).caution).toMatch(/R-290 burns/)
  })
})

describe('end level, room, lead', () => {
  it('gives each class its level, in the local air', () => {
    const level = (given: Record<string, string>) =>
      ask('end-level', { refrigerant: 'R-134a', charge: '4 kg', ...given }).hero
    expect(level({})).toBe('−0.34 bar g')
    expect(level({ altitude: '1500 m' })).toBe('−0.34 bar g')
    expect(level({ charge: '120 kg' })).toBe('−0.51 bar g')
    expect(level({ use: 'leaking' })).toBe('0.00 bar g')
    expect(level({ profile: 'own', own: '-0.2 bar' })).toBe('−0.20 bar g')
    expect(ask('end-level', { refrigerant: 'R-22', profile: 'own' }).errors.own).toMatch(/Enter the level/)
    expect(
      ask('end-level', { refrigerant: 'R-22', use: 'small-sealed', charge: '4 kg' }).errors.charge,
    ).toMatch(/5 lb/)
  })
  it('warns of rooms from the alarm on, and guesses no figure', () => {
    const room = (charge: string, refrigerant = 'R-290') =>
      ask('room', { refrigerant, charge, area: '12', height: '2.5 m' })
    expect(room('150 g').outcome).toBe('good')
    expect(room('300 g').outcome).toBe('caution')
    expect(room('1.2 kg').outcome).toBe('bad')
    expect(room('5 kg', 'R-410A').hero).toBe('no figure')
    expect(room('5 kg', 'R-717').says).toMatch(/toxic/)
    expect(ask('room', { refrigerant: 'R-290', charge: '1 kg' }).errors.volume).toMatch(/volume of the room/)
  })
  it('warns of thin leads', () => {
    expect(ask('lead', { length: '50 m', size: '1.5 mm2' }).outcome).toBe('good')
    expect(ask('lead', { length: '50 m', size: '16 AWG', supply: '115', current: '12' }).outcome).toBe(
      'caution',
    )
  })
})

describe('expected charge', () => {
  it('takes the total in the panel before the sum, and drier and parts on top of the plate', () => {
    const base = { refrigerant: 'R-410A', plate: '2 kg' }
    expect(ask('expected-charge', { ...base, panel: '2.4 kg' }).hero).toBe('2.400 kg')
    expect(ask('expected-charge', { ...base, drier: '0.5 L', part_1_mass: '100 g' }).hero).toBe('2.395 kg')
    expect(
      ask('expected-charge', { ...base, line_1_length: '5 m', line_1_covered: '8 m' }).errors.line_1_covered,
    ).toMatch(/no more than/)
    expect(ask('expected-charge', { refrigerant: 'R-410A' }).errors.plate).toMatch(/Enter the charge/)
    expect(
      ask('expected-charge', { ...base, refrigerant: 'R-744', line_1_length: '5 m' }).errors.refrigerant,
    ).toMatch(/R-744 is tabulated/)
  })
  it('is less sure of a guessed line than of a measured one', () => {
    const give = (known: string) =>
      ask('expected-charge', {
        refrigerant: 'R-410A',
        plate: '2 kg',
        line_1_length: '30 m',
        line_1_known: known,
      }).beside
    const size = (text: string) => Number(/([\d.]+)/.exec(text)![1])
    expect(size(give('guessed'))).toBeGreaterThan(3 * size(give('measured')))
  })
})

describe('cylinders for a charge', () => {
  const cylinder = (label: string, balanceKg: number, over: Partial<Cylinder> = {}) =>
    aCylinderRecord({
      cylinderId: label,
      label,
      refrigerant: 'R-134a',
      tareMg: 10e6,
      waterCapacityMg: 20e6,
      balanceMg: balanceKg * 1e6,
      ...over,
    })
  const rack = [
    cylinder('empty', 0, { refrigerant: null }),
    cylinder('half', 8),
    cylinder('nearly full', 13),
    cylinder('run out', 0, { testedOn: '2015-01-01' }),
    cylinder('promised', 2, { reservedMg: 13e6 }),
    cylinder('weak', 0, { servicePressurePa: 1.1e6 }),
    cylinder('another gas', 1, { refrigerant: 'R-22' }),
  ]
  const chosen = (charge: string, cylinders = rack) =>
    (ask('fill', { refrigerant: 'R-134a', charge }, cylinders).data.cylinders as { label: string }[]).map(
      (c) => c.label,
    )

  it('takes the fewest, and of those the fullest that stay under their limits', () => {
    expect(chosen('2 kg')).toEqual(['nearly full'])
    expect(chosen('7 kg')).toEqual(['half'])
    expect(chosen('12 kg')).toEqual(['empty'])
    expect(chosen('18 kg')).toEqual(['empty', 'nearly full'])
    expect(chosen('26 kg')).toEqual(['empty', 'half', 'nearly full'])
  })
  it('says when all together are too small, and asks for leave to look', () => {
    expect(ask('fill', { refrigerant: 'R-134a', charge: '60 kg' }, rack)).toMatchObject({ outcome: 'bad' })
    expect(ask('fill', { refrigerant: 'R-134a', charge: '6 kg' }).errors.charge).toMatch(/may not look/)
  })
  it('wants a tare for a gross weight, and a cylinder that weighs more than its tare', () => {
    const own = { refrigerant: 'R-134a', wc: '20 kg' }
    expect(ask('fill', { ...own, gross: '15 kg' }).errors.tare).toMatch(/stamped tare/)
    expect(ask('fill', { ...own, tare: '16 kg', gross: '15 kg' }).errors.gross).toMatch(/less than the empty/)
    expect(ask('fill', { refrigerant: 'R-134a' }).errors.wc).toMatch(/water capacity/)
    expect(ask('fill', { ...own, tare: '10 kg', gross: '20 kg', t: '200 C' }).errors.t).toMatch(
      /R-134a is tabulated/,
    )
  })
})
