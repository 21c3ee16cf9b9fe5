import { describe, expect, it } from 'vitest'
import { compareRecovered } from '#core/recovery'
import { type Entry, STAGES } from '#core/tape'
import { US_UNITS } from '#core/units'
import { ENGINE_VERSION } from '#core/verdict'
import { aSystemRecord, jobCylinder, said, wrote } from '../../testing/a-job-page'
import { MassStrip } from './head/mass-strip'
import { NextLine } from './head/next-line'
import { NotTaken } from '~/device/waiting/not-taken'
import { RunSheet } from './head/run-sheet'
import { contentsBeforeMg } from './moving/contents'
import { StagePanel } from './stages/panel'

const described = wrote('job-described', { systemId: 's', refrigerant: 'R-410A' }, 0)
const started = (weightMg = 15_000_000, use: 'recover' | 'charge' = 'recover', cylinderId = 'A') =>
  wrote('run-started', { runId: use, use, cylinderId, scale: 'S', mode: 'gross', weightMg })
const weighed = (weightMg: number, use = 'recover') => wrote('weight-noted', { runId: use, weightMg })
const ended = (weightMg: number, use = 'recover', hoseMg = 0) =>
  wrote('run-ended', { runId: use, weightMg, hoseMg })
const emptied = () => wrote('recovery-ended', { how: 'emptied' })
const panel = (stage: Parameters<typeof StagePanel>[0]['stage'], entries: Entry[], over = {}) =>
  said(<StagePanel stage={stage} />, [described, ...entries], over)

describe('Prepare', () => {
  it('says what should be in it, and which cylinders take it', () => {
    const text = panel('prepare', [])
    expect(text).toContain('Should be in it 3.000 kg')
    expect(text).toContain('give or take 60 g')
    expect(text).toContain('Gull 1')
    expect(text).toContain('room 14.280 kg')
  })
  it('says why not, where none takes it', () => {
    const text = panel('prepare', [], { cylinders: [jobCylinder({ testedOn: null })] })
    expect(text).toContain('No cylinder in the rack takes all of it')
    expect(text).toContain('All 1 of this gas, and why not')
  })
  it('goes on without a plate', () => {
    expect(panel('prepare', [], { system: null })).toContain(
      'Without a system there is no plate to compare with',
    )
  })
  it('warns before a lock-out is forgotten', () => {
    expect(panel('prepare', [])).toContain('Caution: Power off and locked out')
    expect(panel('prepare', [])).toContain(
      'Local codes, the maker’s manual and licensed practice come first.',
    )
  })
})

describe('Recover', () => {
  it('shows total, gross weight and limit while it runs', () => {
    const text = panel('recover', [started(), weighed(16_500_000)])
    expect(text).toContain('R-410A into Gull 1 Recovered, this pull 1.500 kg')
    expect(text).toContain('Gross now 16.500 kg')
    expect(text).toContain('never past 29.280 kg')
    expect(text).toContain('room for 12.780 kg more')
    expect(text).toContain('Last rate 1.5 kg/min')
  })
  it('reads in pounds for whoever works in them', () => {
    const text = panel('recover', [started(), weighed(16_500_000)], { units: US_UNITS })
    expect(text).toContain('3 lb 5 oz')
    expect(text).toContain('never past 64 lb 8.75 oz')
  })
  it('warns near the limit, and alarms past it', () => {
    expect(panel('recover', [started(), weighed(28_500_000)])).toMatch(
      /room for 780 g more .* Near the limit: have the next cylinder ready\. Next cylinder/,
    )
    expect(panel('recover', [started(), weighed(29_500_000)])).toMatch(
      /220 g past the limit: stop, .* Next cylinder/,
    )
  })
  it('says when no limit can be known', () => {
    const text = panel('recover', [started()], { cylinders: [jobCylinder({ waterCapacityMg: null })] })
    expect(text).toContain('No gross limit is known for this cylinder')
  })
  it('gives no verdict before the machine is purged', () => {
    expect(panel('recover', [started(), ended(17_900_000)])).toContain(
      'No verdict before the machine is purged.',
    )
  })
  it('shows the verdict as it was given, with reasons, numbers and source', () => {
    const verdict = compareRecovered(
      { massMg: 1_200_000, sigmaMg: 10_000 },
      { massMg: 3_000_000, sigmaMg: 30_000 },
    )
    const given = wrote('verdict-given', { about: 'recovery', verdict, engine: 1, tables: 1 })
    const text = panel('recover', [started(), ended(16_200_000), emptied(), given])
    for (const part of [
      'Stop',
      'Most of the charge is gone',
      'A large leak',
      'Recovered 1.200 kg ± 20 g',
      'Another pull',
    ])
      expect(text).toContain(part)
    const overruled = wrote('verdict-overruled', { entryId: given.entryId, reason: 'known leak' })
    expect(panel('recover', [started(), ended(16_200_000), emptied(), given, overruled])).toContain(
      'Overruled: known leak',
    )
  })
  it('works out what would explain that more came out, and changes with the plate', () => {
    // 3.86 of 3.00 kg: 0.86 kg are 18 m of 3/8 in line at 47.8 g a metre.
    const more = compareRecovered(
      { massMg: 3_860_000, sigmaMg: 10_000 },
      { massMg: 3_000_000, sigmaMg: 30_000 },
    )
    const entries = [
      started(),
      ended(18_860_000),
      emptied(),
      wrote('verdict-given', { about: 'recovery', verdict: more, engine: ENGINE_VERSION, tables: 1 }),
    ]
    const text = panel('recover', entries)
    expect(text).toContain('What would explain the difference:')
    expect(text).toContain('18 m more of 3/8 in liquid line: 860 g')
    // The plate is put right: it says something else now, and what it said.
    const system = { ...aSystemRecord(), plateMg: 3_850_000 }
    const anew = panel('recover', entries, { system })
    expect(anew).toContain('What came out is what should have been in there')
    expect(anew).toMatch(/it said: More came out than should have been in there/)
    expect(anew).toContain('Note what it says now')
  })
  it('has the field for a plate that nobody knows, and uses one that was read in the job', () => {
    const unknown = { ...aSystemRecord(), plateMg: null }
    const none = compareRecovered({ massMg: 3_000_000, sigmaMg: 10_000 }, null)
    const entries = [
      started(),
      ended(18_000_000),
      emptied(),
      wrote('verdict-given', { about: 'recovery', verdict: none, engine: ENGINE_VERSION, tables: 1 }),
    ]
    expect(panel('recover', entries, { system: unknown })).toContain('Charge on the plate')
    const read = wrote('plate-noted', { massMg: 3_000_000, text: '3 kg' })
    const text = panel('recover', [...entries, read], { system: unknown })
    expect(text).toContain('What came out is what should have been in there')
    expect(text).not.toContain('Charge on the plate')
  })
  it('can be left when the charge is gone already', () => {
    expect(panel('recover', [])).toContain('The charge is gone already')
  })
  it('shows a trainee the figures, and nothing to press', () => {
    const text = panel('recover', [started(), weighed(16_500_000)], { mayWrite: false })
    expect(text).toContain('1.500 kg')
    expect(text).not.toContain('Note weight')
  })
})

describe('Charge', () => {
  const recovered = [started(), ended(17_950_000), emptied()]
  const target = wrote('target-set', { massMg: 2_950_000, toleranceMg: 29_500, basis: 'recovered' })
  it('offers targets with the reason for each', () => {
    const text = panel('charge', recovered)
    expect(text).toContain('3.000 kg from plate, lines and accessories usual here')
    expect(text).toContain('2.950 kg from what came out')
  })
  it('shows what still has to go in, and the stop weight', () => {
    const text = panel('charge', [
      ...recovered,
      target,
      started(21_000_000, 'charge'),
      weighed(19_000_000, 'charge'),
    ])
    expect(text).toContain('Still to go in 950 g')
    expect(text).toContain('Close the valve when the scale shows 18.050 kg')
  })
  it('names no stop weight that the cylinder cannot get down to, and where its liquid ends', () => {
    // 12 kg empty, 21.6 L: full of vapour at 25 C some 1.4 kg, and 1 % of liquid below the tube, 0.2 kg.
    const from = (grossMg: number) => panel('charge', [...recovered, target, started(grossMg, 'charge')])
    expect(from(16_000_000)).toMatch(
      /liquid ends at about 13\.[4-8]\d{2} kg the rest as vapour, .* Close the valve when the scale shows 13\.050 kg/,
    )
    const short = from(14_500_000)
    expect(short).toMatch(/liquid ends at about 13\.[4-8]\d{2} kg then the next source/)
    expect(short).not.toContain('Close the valve')
    expect(from(21_000_000)).not.toContain('liquid ends')
  })
  it('says when more went in than the target', () => {
    const text = panel('charge', [
      ...recovered,
      target,
      started(21_000_000, 'charge'),
      weighed(18_000_000, 'charge'),
    ])
    expect(text).toContain('50 g more than the target is in it: close the cylinder')
  })
  it('counts what stayed in the hoses as not charged', () => {
    const text = panel('charge', [
      ...recovered,
      target,
      started(21_000_000, 'charge'),
      ended(18_050_000, 'charge', 50_000),
    ])
    expect(text).toContain('In the system 2.900 kg')
    expect(text).toContain('Judge the charge')
  })
  it('warns of recovered gas, and of too little', () => {
    const text = panel('charge', [...recovered, target], {
      cylinders: [jobCylinder({ balanceMg: 1_000_000 })],
    })
    expect(text).toContain('It holds recovered gas')
    expect(text).toContain('It holds less than is wanted')
  })
})

describe('the other stages', () => {
  it('Evacuate shows the gauge, the rule and a hold that runs', () => {
    expect(panel('evacuate', [wrote('vacuum-noted', { pressurePa: 64 })])).toContain('480 micron')
    const text = panel('evacuate', [wrote('hold-started', { holdId: 'h', pressurePa: 60 })])
    expect(text).toContain('Holding for')
    expect(text).toContain('End the hold with this')
  })
  it('Oil reckons out plus parts minus in, in whole injector steps', () => {
    const oil = (direction: 'out' | 'parts' | 'in', volumeMl: number) =>
      wrote('oil-noted', { direction, volumeMl, text: '' })
    const text = panel('oil', [oil('out', 28), oil('parts', 10), oil('in', 15)])
    expect(text).toContain('Still to put in 23 mL')
    expect(text).toContain('5 steps: 25 mL 2 mL more than needed: rounded up.')
    expect(panel('oil', [oil('in', 15)])).toContain('Too much went in 15 mL')
  })
  it('Check readings computes superheat and subcooling, and says when it cannot', () => {
    const readings = [
      wrote('pressure-noted', { point: 'low', pressurePa: 921_325 }),
      wrote('temperature-noted', { point: 'suction', tempK: 286.15 }),
    ]
    expect(panel('verify', readings)).toMatch(/Superheat 8\.\d K/)
    expect(
      panel('verify', [wrote('pressure-noted', { point: 'low', pressurePa: 1.9e7 }), readings[1]!]),
    ).toContain('outside the table')
  })
  it('Leak test lists every search', () => {
    const text = panel('leak-test', [
      wrote('leak-checked', { method: 'dye', found: true, text: 'hose crimp' }),
    ])
    expect(text).toContain('UV dye: leak found hose crimp')
    expect(text).toContain('Never oxygen or shop air')
  })
  it('Close asks what the gas is worth, and waits for a transfer that runs', () => {
    const text = panel('close', [started(), weighed(16_000_000)])
    expect(text).toContain('The gas in Gull 1: what is it fit for?')
    expect(text).toContain('A transfer is still running')
  })
  it('Repair reminds of drier and nitrogen', () => {
    expect(panel('repair', [])).toContain('New filter-drier')
    expect(panel('repair', [], { system: null })).toContain('Nitrogen through while brazing')
  })
})

describe('around the stage', () => {
  it('the mass strip says where every gram is', () => {
    const strip = (...entries: Entry[]) => said(<MassStrip />, [described, ...entries])
    expect(strip()).toContain('Should still be in the system: 3.000 kg')
    expect(strip(started(), weighed(16_200_000))).toMatch(
      /still be in the system: 1\.800 kg .*Of this job in Gull 1: 1\.200 kg/,
    )
    const done = strip(started(), ended(17_900_000), emptied())
    expect(done).toContain('Should have been there, did not come out: 100 g')
    expect(done).not.toContain('still be in the system')
    const charged = strip(
      started(),
      ended(18e6),
      emptied(),
      started(20e6, 'charge'),
      ended(17.5e6, 'charge', 40_000),
    )
    expect(charged).toContain('In the system: 2.460 kg')
    expect(charged).toContain('In hoses and machine: 40 g')
  })
  it('the run sheet has the key figure of each stage', () => {
    const sheet = said(<RunSheet stage="recover" open={() => {}} />, [
      described,
      started(),
      ended(17_950_000),
      emptied(),
      wrote('leak-checked', { method: 'nitrogen', found: false, text: '' }),
      wrote('target-set', { massMg: 2_950_000, toleranceMg: 29_500, basis: 'recovered' }),
    ])
    for (const part of [
      'Prepare (done) R-410A',
      'Recover (done) 2.950 kg',
      'Leak test (done) none found',
      'target 2.950 kg',
    ])
      expect(sheet).toContain(part)
  })
  it('the next line suggests, and leads there from another stage', () => {
    const line = (stage: 'recover' | 'charge', ...entries: Entry[]) =>
      said(<NextLine stage={stage} open={() => {}} />, [described, ...entries])
    expect(line('recover', started())).toContain('Recovery is running')
    expect(line('charge', started())).toContain('Open Recover')
    expect(line('recover', wrote('job-waiting', { what: 'a valve' }))).toContain('Waiting for: a valve')
    expect(line('recover', wrote('job-closed', {}))).toBe('')
  })
  it('what was refused is shown with what was noted and why', () => {
    const entry = started(20_500_000, 'charge')
    const aside = { entryId: 'e', jobId: 'j', userId: 'u', entry, reasons: [{ code: 'doubtful-gas' }] }
    const names = { cylinder: () => 'Gull 1', system: () => undefined }
    const text = said(<NotTaken aside={aside} timeZone="UTC" names={names} />, [described])
    expect(text).toContain('Not taken: Charge from Gull 1 started at 20.500 kg gross, scale S')
    expect(text).toContain('The gas in it is doubtful')
    for (const press of ['Send it again', 'Change it …', 'Throw it away']) expect(text).toContain(press)
  })
})

describe('contents', () => {
  const cylinder = jobCylinder()
  it('count what this job moved before', () => {
    const runs = [
      { cylinderId: 'A', use: 'recover', amountMg: 500_000 },
      { cylinderId: 'B', use: 'recover', amountMg: 900_000 },
      { cylinderId: 'A', use: 'charge', amountMg: 200_000 },
    ] as Parameters<typeof contentsBeforeMg>[1]
    expect(contentsBeforeMg(cylinder, runs)).toBe(3_300_000)
  })
})

describe('cylinders to choose from', () => {
  it('are offered together where none has room for all, each with its share', () => {
    // 17.28 kg by the limit: room for 2.28 and 1.28, and 3.0 should come.
    const cylinders = [
      jobCylinder({ label: 'Gull 1', balanceMg: 15_000_000 }),
      jobCylinder({ cylinderId: 'B', label: 'Gull 2', balanceMg: 16_000_000 }),
    ]
    const text = panel('prepare', [], { cylinders })
    expect(text).toContain('Gull 1 and Gull 2 together: 2.280 kg and 720 g, each keeps its share free')
    expect(text).toContain('Choose both')
  })
  it('have what this job took out first when charging', () => {
    const cylinders = [
      jobCylinder({ cylinderId: 'V', label: 'V-410A 1', condition: 'clean', balanceMg: 9_000_000 }),
      jobCylinder({ label: 'Gull 1', balanceMg: 3_000_000 }),
    ]
    const text = panel(
      'charge',
      [
        started(),
        ended(18_000_000),
        emptied(),
        wrote('target-set', { massMg: 3e6, toleranceMg: 30_000, basis: 'typed' }),
      ],
      { cylinders },
    )
    expect(text.indexOf('Gull 1')).toBeGreaterThan(0)
    expect(text.indexOf('Gull 1')).toBeLessThan(text.indexOf('V-410A 1'))
  })
})

describe('a system of R-744 with lines and a transcritical high side', () => {
  const system = {
    ...aSystemRecord(),
    refrigerant: 'R-744',
    plateMg: 8_000_000,
    lines: [{ kind: 'liquid' as const, od: '3/8', lengthM: 20, coveredM: 5, guessed: false }],
  }
  const carbon = wrote('job-described', { refrigerant: 'R-744' })
  const entries = [
    carbon,
    wrote('pressure-noted', { point: 'low', pressurePa: 31e5 }),
    wrote('pressure-noted', { point: 'high', pressurePa: 92e5 }),
    wrote('temperature-noted', { point: 'suction', tempK: 275 }),
    wrote('temperature-noted', { point: 'liquid', tempK: 308 }),
    wrote('pressure-noted', { point: 'cylinder', pressurePa: 95e5 }),
    wrote('temperature-noted', { point: 'cylinder', tempK: 310 }),
  ]
  const cylinders = [jobCylinder({ refrigerant: 'R-744', fillingRatio: null })]
  it.each(STAGES)('%s shows what can be known', (stage) => {
    expect(
      said(<StagePanel stage={stage} />, [described, ...entries], { system, cylinders }).length,
    ).toBeGreaterThan(40)
  })
  it('says what cannot', () => {
    const prepare = said(<StagePanel stage="prepare" />, [described, ...entries], { system, cylinders })
    expect(prepare).toContain('What the 3/8 in liquid holds cannot be computed for this gas')
    expect(prepare).toContain('No cylinder in the rack takes all of it')
    const verify = said(<StagePanel stage="verify" />, [described, ...entries], { system, cylinders })
    expect(verify).toContain('above its critical point there is no subcooling')
    // R-744 at 31 bar: dew at -4.4 °C; 275 K is 6.2 K above it.
    expect(verify).toMatch(/Superheat 6\.\d K/)
  })
})

describe('before a recovery', () => {
  const bus = { ...aSystemRecord(), trade: 'vehicle' as const }
  const identified = (found: string, purityPct: number, passed: boolean) =>
    wrote('gas-tested', { test: 'identifier', found, purityPct, passed })
  it('a vehicle: no hose before the identifier, and foul gas goes to a cylinder of its own', () => {
    expect(panel('prepare', [], { system: bus })).toContain(
      'Not tested yet: no hose is connected before that',
    )
    const good = panel('prepare', [identified('R-410A', 99.2, true)], { system: bus })
    expect(good).toContain('Pure enough: hoses may be connected')
    expect(good).toContain('room 14.280 kg')
    const foul = panel('prepare', [identified('unknown', 81, false)], { system: bus })
    expect(foul).toContain('It goes to a cylinder of its own')
    expect(foul).toContain('No cylinder in the rack takes all of it')
  })
  it('proposes a way with its reasons, how long it takes, and how far down', () => {
    const text = panel('prepare', [])
    expect(text).toContain('liquid first, then vapour, vapour port, 1/4 in hoses, cores out')
    expect(text).toContain('no run of this rig is known yet')
    // R-410A under 200 lb: 0 on the gauge.
    expect(text).toContain('0.00 bar g')
    expect(text).toContain('Rig check 0 of 5')
    expect(text).toContain('may the charge stay, shut into the outdoor unit?')
    expect(panel('prepare', [], { system: bus })).not.toContain('may the charge stay')
  })
  it('who only weighs is not asked about the rig', () => {
    const text = panel('prepare', [wrote('step-done', { step: 'weigh-only' })])
    expect(text).toContain('Weigh only: the rig is not asked about')
    expect(text).not.toContain('Rig check')
  })
  it('what is left out says why', () => {
    const text = panel('prepare', [wrote('step-skipped', { step: 'rig-drier', reason: 'new one tomorrow' })])
    expect(text).toContain('Rig check 1 of 5')
    expect(text).toContain('Left out: new one tomorrow')
  })
})

describe('a charge that is shut in', () => {
  const shut = wrote('recovery-ended', { how: 'shut-in' }, 1_000)
  const searched = wrote('leak-checked', { method: 'detector', found: false, text: '' }, 2_000)
  it('nothing goes in before it is back; and it is not let into what was not proved', () => {
    const text = panel('charge', [shut])
    expect(text).toContain('Leave the valves shut')
    expect(text).not.toContain('Target charge')
    const held = [
      wrote('hold-started', { holdId: 'h', pressurePa: 40 }, 3_000),
      wrote('hold-ended', { holdId: 'h', pressurePa: 45 }, 1_203_000),
    ]
    const proved = panel('charge', [shut, searched, ...held])
    expect(proved).toContain('Open its valves slowly')
    expect(proved).not.toContain('Leave the valves shut')
  })
})

describe('the gas', () => {
  const done = [started(12_000_000), ended(14_900_000)]
  it('no word before the purge; after it, back into the system; burnt and not tested, filtered first', () => {
    const hoses = wrote('step-done', { step: 'purged-hoses' })
    const purged = wrote('step-done', { step: 'self-purged' })
    expect(panel('recover', [...done, emptied()])).toContain(
      'No word on the gas before the machine is purged',
    )
    const empty = [jobCylinder({ cylinderId: 'A', beforeMg: 0, balanceMg: 0 })]
    expect(panel('recover', [...done, purged, emptied()], { cylinders: empty })).toContain(
      'Measure it before it goes back',
    )
    expect(panel('recover', [...done, purged, emptied()], { cylinders: empty })).toContain(
      'Hoses were purged',
    )
    const unknown = panel('recover', [hoses, ...done, purged, emptied()], { cylinders: empty })
    expect(unknown).toContain('Measure it before it goes back')
    expect(unknown).toContain('Machine was purged of its last gas')
    const machine = wrote('step-done', { step: 'rig-drier' })
    const after = panel('recover', [hoses, machine, ...done, purged, emptied()], { cylinders: empty })
    expect(after).toContain('It may go back into this system')
    const burnt = panel(
      'recover',
      [...done, purged, wrote('step-done', { step: 'compressor-burnt' }), emptied()],
      { cylinders: empty },
    )
    expect(burnt).toContain('Filter, dry and test it before it goes back')
  })
})

describe('Charge, planned', () => {
  const target = () => wrote('target-set', { massMg: 3_000_000, toleranceMg: 30_000, basis: 'expected' })
  const out = () => [started(), ended(17_900_000), emptied()]
  const virgin = (balanceMg: number) =>
    jobCylinder({ cylinderId: 'V', label: 'New 1', kind: 'virgin', condition: 'clean', balanceMg })
  it('takes this job’s gas first, says what stays in it, and what virgin gas adds', () => {
    const own = jobCylinder({ cylinderId: 'A', balanceMg: 2_900_000, beforeMg: 0 })
    const text = panel('charge', [...out(), target()], { cylinders: [virgin(9_000_000), own] })
    expect(text).toMatch(/Gull 1 : 1\.245 kg , this job’s own gas.*New 1 : 1\.755 kg , virgin gas/)
    expect(text).toContain('stay in it')
    expect(text).toContain('By pressure alone')
  })
  it('says how much is missing', () => {
    const text = panel('charge', [...out(), target()], { cylinders: [virgin(2_000_000)] })
    expect(text).toContain('Still missing')
    expect(text).toContain('Have virgin gas ready before you begin.')
  })
  it('too much in it is taken out over the scale, with its reason', () => {
    const over = [...out(), target(), started(20_000_000, 'charge'), ended(16_900_000, 'charge')]
    expect(panel('charge', over)).toContain('Take 100 g out again')
    // Short in mid-charge is no fault.
    const short = [...out(), target(), started(20_000_000, 'charge'), ended(18_000_000, 'charge')]
    expect(panel('charge', short)).not.toContain('Why it is off')
  })
})

describe('Oil', () => {
  const bus = { ...aSystemRecord(), trade: 'vehicle' as const, refrigerant: 'R-1234yf' }
  it('nothing out and nothing replaced: nothing in', () => {
    expect(panel('oil', [])).toContain('Nothing came out and nothing was replaced: nothing goes in.')
  })
  it('stops before a high-voltage compressor until somebody has cleared the way, and says who', () => {
    const highVoltage = wrote('drive-noted', { drive: 'high-voltage' })
    const stop = panel('oil', [highVoltage], { system: bus })
    expect(stop).toContain('No oil goes in before the way is clear of PAG')
    expect(stop).toContain('Orange cables are for trained people.')
    const cleared = wrote('oil-cleared', { how: 'own-tool', who: 'Teo' })
    expect(panel('oil', [highVoltage, cleared], { system: bus })).toContain(
      'Clear of other oils: a tool of its own, for this oil only, says Teo',
    )
  })
  it('a system remembers its compressor, and its dye', () => {
    expect(panel('oil', [], { system: { ...bus, drive: 'high-voltage' } })).toContain('clear of PAG')
    expect(panel('oil', [wrote('dye-noted', { volumeMl: 7, text: '' })])).toContain(
      'Dye is in it: by this job.',
    )
  })
})

describe('Check readings', () => {
  it('asks first whether it runs, and what for', () => {
    const text = panel('verify', [])
    expect(text).toContain('Does it run?')
    expect(text).toContain('Freezer, about −20 °C')
    expect(panel('verify', [], { system: { ...aSystemRecord(), trade: 'vehicle' } })).not.toContain('Freezer')
  })
  it('shows each figure against what is healthy', () => {
    const text = panel('verify', [
      wrote('system-running', { service: 'comfort', beforeS: 3_600 }),
      wrote('temperature-noted', { point: 'air-on', tempK: 298.15 }),
      wrote('temperature-noted', { point: 'air-off', tempK: 281.15 }),
    ])
    expect(text).toContain('Air on less air off 17 K 8 K to 12 K')
    expect(text).toContain('high')
  })
})

describe('May the gas go back?', () => {
  const pulled = [
    wrote('step-done', { step: 'purged-hoses' }),
    wrote('step-done', { step: 'rig-drier' }),
    started(),
    ended(17_900_000),
    emptied(),
    wrote('step-done', { step: 'self-purged' }),
  ]
  const onDoubtful = (...more: Entry[]) =>
    panel('recover', [...pulled, ...more], {
      system: aSystemRecord(),
      cylinders: [jobCylinder({ cylinderId: 'A', condition: 'doubtful', beforeMg: 2_000_000 })],
    })
  const mark = wrote('gas-judged', { cylinderId: 'A', condition: 'doubtful' })
  it('says the same once its mark is set', () => {
    expect(onDoubtful()).toContain(`It lies on gas that was doubtful already`)
    expect(onDoubtful()).not.toContain('It may go back')
    expect(onDoubtful(mark)).not.toContain('It may go back')
  })
  it('asks for an acid test where the compressor was renewed', () => {
    const clean = (...more: Entry[]) =>
      panel('recover', [...pulled, ...more], {
        system: aSystemRecord(),
        cylinders: [jobCylinder({ cylinderId: 'A', condition: 'used', beforeMg: 0 })],
      })
    expect(clean()).toContain('It may go back')
    expect(clean(wrote('part-replaced', { part: 'compressor', number: '', text: '' }))).not.toContain(
      'It may go back',
    )
  })
})

describe('A change of gas', () => {
  it('the cylinder with the old gas is not called mixed', () => {
    const old = jobCylinder({ cylinderId: 'A', refrigerant: 'R-410A', beforeMg: 2_000_000 })
    const text = panel(
      'recover',
      [
        started(),
        ended(17_900_000),
        emptied(),
        wrote('step-done', { step: 'self-purged' }),
        wrote('gas-changed', { to: 'R-32', oilType: '', reason: '' }),
      ],
      { cylinders: [old] },
    )
    expect(text).toContain('May the gas go back?')
    expect(text).not.toContain('It is not one gas')
  })
})
