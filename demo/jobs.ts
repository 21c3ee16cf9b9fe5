import { addDays } from 'date-fns'
import { chargeToleranceMg } from '#core/charging'
import { TABLES, tableOf } from '#core/refrigerants'
import { expectedCharge, type SystemPlate } from '#core/systems'
import {
  type Entry,
  type EntryBodies,
  type EntryKind,
  foldTape,
  judgeNow,
  type JudgingContext,
  type VerdictAbout,
  versionOf,
} from '#core/tape'
import { PA_PER_MICRON, STANDARD_ATMOSPHERE_PA, ZERO_CELSIUS_K } from '#core/units'
import { ENGINE_VERSION } from '#core/verdict'
import type { Service } from '#core/verify'
import { append, cylinderOf, inShop, openJob } from '#db'
import { idFor } from './ids'
import { KIT, setOf } from './kit'
import { playedUntil, RIGS } from './rigs'
import { SYSTEMS } from './systems'

/** A scale of the shop, as the start of a transfer names it. */
function scaleNamed(label: string) {
  const { divisionMg, accuracyMg } = KIT.find((each) => each.label === label)!.facts
  return {
    scale: label,
    scaleId: idFor(`kit ${label}`),
    ...(divisionMg === undefined ? {} : { divisionMg }),
    ...(accuracyMg === undefined ? {} : { accuracyMg }),
  }
}

const MINUTE = 60_000
const KG = 1_000_000
const G = 1_000

interface Story {
  daysAgo: number
  /** Minutes after eight in the morning. */
  startMin?: number
  by: string
  system: string
  title: string
  into: string
  recoveredMg: number
  /** How far the story has gone; the last two are read off rigs that run. */
  until?: 'described' | 'recovering' | 'recovered' | 'evacuating'
  waitsFor?: string
  leak?: string
  from?: string
  chargedMg?: number
  oilMl?: [out: number, parts: number, in_: number]
  readings?: [lowBar: number, highBar: number, suctionC: number, liquidC: number]
  /** All that was read on it while it ran, before the work and after. */
  runs?: { service: Service; before?: Run; after: Run }
  gas?: 'used' | 'doubtful'
  /** Another scale than that of the van. */
  onScale?: string
}

/** Low and high in bar g, then °C: suction, liquid, ambient, air on and off. */
type Run = [
  low: number,
  high: number,
  suction: number,
  liquid: number,
  ambient: number,
  on: number,
  off: number,
]

/** A year at the harbour: eight finished jobs, one at the scale, one waiting for a part. */
const STORIES: Story[] = [
  {
    daysAgo: 338,
    by: 'teo',
    system: 'bus-12',
    title: 'Condenser hit by a branch',
    into: 'Gull 5',
    recoveredMg: 1.9 * KG,
    leak: 'condenser, lower tubes',
    from: 'V-134a 20',
    chargedMg: 4.79 * KG,
    oilMl: [20, 30, 50],
    readings: [2.1, 14.2, 9, 48],
  },
  {
    daysAgo: 291,
    by: 'jonah',
    system: 'retarder',
    title: 'Compressor will not start',
    into: 'Buoy 8',
    recoveredMg: 4.35 * KG,
    from: 'V-452A 6',
    chargedMg: 4.6 * KG,
    oilMl: [0, 60, 60],
    runs: { service: 'cold-store', after: [3.7, 14.6, 0.5, 27, 20, 2, -2.3] },
  },
  {
    daysAgo: 247,
    by: 'ines',
    system: 'tractor',
    title: 'Blows warm after the winter',
    into: 'Gull 4',
    recoveredMg: 385 * G,
    leak: 'service valve core',
    from: 'V-134a 20',
    chargedMg: 965 * G,
    oilMl: [10, 0, 10],
    readings: [2, 13.1, 10, 45],
  },
  {
    daysAgo: 203,
    by: 'teo',
    system: 'blast',
    title: 'Expansion valve hunting',
    into: 'Cod 2',
    recoveredMg: 2.4 * KG,
    from: 'V-404A 2',
    chargedMg: 2.4 * KG,
    runs: {
      service: 'freezer',
      // The valve floods: no superheat, the evaporator hardly below the air.
      before: [1.66, 13.8, -23, 27.5, 20, -20, -22.3],
      after: [1.32, 13.6, -22, 26, 20, -20, -24],
    },
  },
  {
    daysAgo: 155,
    by: 'jonah',
    system: 'saloon',
    title: 'Fan motor, circuit opened for the bracket',
    onScale: 'Scale 1',
    into: 'Buoy 7',
    recoveredMg: 2.2 * KG,
    from: 'Buoy 7',
    chargedMg: 2.2 * KG,
  },
  {
    daysAgo: 96,
    by: 'ines',
    system: 'van-3',
    title: 'Door switch and drier',
    into: 'Buoy 8',
    recoveredMg: 1.605 * KG,
    from: 'V-452A 6',
    chargedMg: 1.615 * KG,
    readings: [1.3, 16.9, -6, 33],
  },
  {
    daysAgo: 41,
    by: 'teo',
    system: 'vaccine',
    title: 'Sealed system repair after a knock',
    into: 'Spark 1',
    recoveredMg: 35 * G,
    leak: 'process tube',
    from: 'V-600a 1',
    chargedMg: 58 * G,
  },
  {
    daysAgo: 12,
    by: 'jonah',
    system: 'bus-15',
    title: 'Yearly check, sight glass foaming',
    into: 'Mole 1',
    recoveredMg: 2.85 * KG,
    leak: 'hose crimp at the evaporator',
    from: 'V-410A 11',
    chargedMg: 3.395 * KG,
    oilMl: [15, 10, 25],
    readings: [8.2, 24.5, 13, 36],
  },
  {
    daysAgo: 2,
    startMin: 95,
    by: 'teo',
    system: 'fish-store',
    title: 'Compressor 2 seized',
    into: 'Cod 1',
    recoveredMg: 23.9 * KG,
    until: 'recovered',
    waitsFor: 'compressor, promised for Thursday',
    gas: 'used',
  },
  {
    daysAgo: 0,
    startMin: 20,
    by: 'ines',
    system: 'bridge',
    title: 'Bridge hot, oil at the flare',
    into: 'Ferry 9',
    recoveredMg: 0,
    until: 'recovering',
  },
  {
    daysAgo: 0,
    startMin: 140,
    by: 'teo',
    system: 'herring',
    title: 'Evaporator coil holed by a fork',
    into: '',
    recoveredMg: 0,
    leak: 'evaporator, second bend',
    until: 'evacuating',
  },
  {
    daysAgo: 0,
    startMin: 12,
    by: 'jonah',
    system: 'loader',
    title: 'Cab stays warm',
    into: '',
    recoveredMg: 0,
    until: 'described',
  },
  {
    daysAgo: 0,
    startMin: 6,
    by: 'jonah',
    system: 'shunter',
    title: 'Blows warm after the winter',
    into: '',
    recoveredMg: 0,
    until: 'described',
  },
]

/** Several are of today; the first of them has the day alone. */
const idOf = ({ daysAgo, system }: Story) =>
  daysAgo === 0 && system !== 'bridge' ? `${daysAgo} ${system}` : String(daysAgo)

export async function loadJobs(shopId: string, now: Date): Promise<void> {
  for (const story of STORIES) {
    const jobId = idFor(`job ${idOf(story)}`)
    const start = startOf(story, now)
    await inShop(shopId, async (tx) => {
      await openJob(tx, jobId, idFor(story.by), new Date(start))
      const grosses = new Map<string, number>()
      for (const label of [story.into, story.from]) {
        if (!label) continue
        const cylinder = (await cylinderOf(tx, idFor(label), jobId))!
        grosses.set(label, Math.round((cylinder.tareMg + cylinder.balanceMg) / 5000) * 5000)
      }
      const entries = tapeOf(story, start, grosses, now)
      await append(tx, {
        jobId,
        userId: idFor(story.by),
        entries,
        // Long after: what is told here has happened.
        sentAt: start + 30 * 24 * 60 * MINUTE,
        offsetMs: 0,
        now: new Date(entries.at(-1)!.at + 1000),
        today: new Date(start).toISOString().slice(0, 10),
      })
    })
  }
}

/** Eight in the morning of its day; today's job began a little while ago, whatever the hour. */
function startOf({ daysAgo, startMin = 15 }: Story, now: Date): number {
  if (daysAgo === 0) return now.getTime() - (startMin + 18) * MINUTE
  const day = addDays(now, -daysAgo)
  return Date.UTC(day.getUTCFullYear(), day.getUTCMonth(), day.getUTCDate(), 8) + startMin * MINUTE
}

function tapeOf(story: Story, start: number, grosses: Map<string, number>, now: Date): Entry[] {
  const entries: Entry[] = []
  let at = start
  const write = <K extends EntryKind>(
    kind: K,
    body: EntryBodies[K],
    afterMin = 1,
    sample?: Entry['sample'],
  ) => {
    at += afterMin * MINUTE
    const n = entries.length
    const entryId = idFor(`job ${idOf(story)} entry ${n}`)
    entries.push({
      entryId,
      kind,
      version: versionOf(kind),
      at,
      deviceId: `demo-${story.by}`,
      deviceSeq: n,
      ...(sample ? { sample } : {}),
      body,
    } as Entry)
  }
  const give = (about: VerdictAbout) => {
    const verdict = judgeNow(foldTape(entries), about, judging)
    if (verdict) write('verdict-given', { about, verdict, engine: ENGINE_VERSION, tables: TABLES.version }, 0)
  }
  const system = SYSTEMS.find((s) => s.key === story.system)!
  const expected = expectedCharge(system as SystemPlate, tableOf(system.refrigerant!))
  const judging: JudgingContext = {
    books: null,
    plate: expected,
    trade: system.trade,
    metering: system.metering,
    plateSubcoolingK: system.subcoolingTargetK,
  }

  write(
    'job-described',
    { title: story.title, systemId: idFor(story.system), refrigerant: system.refrigerant },
    0,
  )
  // Two vehicles that wait in the yard for a station.
  if (story.until === 'described') return entries
  const van = story.by === 'ines' ? 'Van 2' : 'Van 1'
  for (const each of setOf(van)) write('kit-used', each, 0)
  if (story.until === 'evacuating') return evacuating()
  if (story.runs?.before) {
    ran(story.runs.service, story.runs.before)
    give('readings')
  }
  write('step-done', { step: 'locked-out' }, 3)
  write('pressure-noted', { point: 'low', pressurePa: 735_000 })
  write('temperature-noted', { point: 'ambient', tempK: 292.15 })
  write(
    'cylinder-chosen',
    {
      cylinderId: idFor(story.into),
      use: 'recover',
      // Long ago it was known from the site that less was left in it.
      massMg: story.daysAgo === 0 ? (expected?.massMg ?? null) : story.recoveredMg,
    },
    2,
  )
  if (story.until === 'recovering') return recovering()
  weigh('recover', story.into, story.recoveredMg, 26)

  write('step-done', { step: 'self-purged' })
  write('recovery-ended', { how: 'emptied' }, 9)
  give('recovery')
  if (story.gas) write('gas-judged', { cylinderId: idFor(story.into), condition: story.gas })
  if (story.waitsFor) write('job-waiting', { what: story.waitsFor }, 12)
  if (story.until === 'recovered') return entries

  if (story.leak) {
    write('leak-checked', { method: 'nitrogen', found: true, text: story.leak }, 40)
    write('step-done', { step: 'repair-done' }, 55)
  }
  write('leak-checked', { method: 'nitrogen', found: false, text: '24 bar, 20 min, 19 to 19 °C' }, 25)
  const holdId = idFor(`job ${idOf(story)} hold`)
  for (const micron of [9000, 2400, 900, 480])
    write('vacuum-noted', { pressurePa: micron * PA_PER_MICRON }, 6)
  write('hold-started', { holdId, pressurePa: 430 * PA_PER_MICRON }, 8)
  write('vacuum-noted', { pressurePa: 505 * PA_PER_MICRON }, 5)
  write('hold-ended', { holdId, pressurePa: 540 * PA_PER_MICRON }, 7)
  give('hold')
  if (story.oilMl) {
    const [out, parts, in_] = story.oilMl
    const noted: [direction: 'out' | 'parts' | 'in', volumeMl: number][] = [
      ['out', out],
      ['parts', parts],
      ['in', in_],
    ]
    for (const [direction, volumeMl] of noted)
      if (volumeMl > 0)
        write('oil-noted', { direction, volumeMl, text: direction === 'in' ? system.oilType : '' })
  }
  const plateRules = story.leak !== undefined && expected !== null && story.chargedMg! > 2 * story.recoveredMg
  const targetMg = plateRules ? expected.massMg : story.chargedMg!
  write('target-set', {
    massMg: targetMg,
    toleranceMg: chargeToleranceMg(targetMg, system.trade),
    basis: plateRules ? 'expected' : story.chargedMg === story.recoveredMg ? 'recovered' : 'typed',
  })
  write('cylinder-chosen', { cylinderId: idFor(story.from!), use: 'charge', massMg: targetMg })
  if (story.from === story.into) grosses.set(story.from, grosses.get(story.from)! + story.recoveredMg)
  weigh('charge', story.from!, story.chargedMg!, 14)
  give('charge')
  if (story.readings) {
    const [low, high, suction, liquid] = story.readings
    write('pressure-noted', { point: 'low', pressurePa: low * 1e5 + STANDARD_ATMOSPHERE_PA }, 15)
    write('pressure-noted', { point: 'high', pressurePa: high * 1e5 + STANDARD_ATMOSPHERE_PA }, 0)
    write('temperature-noted', { point: 'suction', tempK: suction + ZERO_CELSIUS_K }, 0)
    write('temperature-noted', { point: 'liquid', tempK: liquid + ZERO_CELSIUS_K }, 0)
  }
  if (story.runs) {
    ran(story.runs.service, story.runs.after)
    give('readings')
  }
  for (const step of ['caps-on', 'label-in-panel']) write('step-done', { step })
  write('job-closed', {}, 4)
  return entries

  /** It runs, has settled, and everything is read within a minute. */
  function ran(service: Service, [low, high, ...temps]: Run) {
    write('system-running', { service, beforeS: 1_800 }, 20)
    for (const [point, bar] of [
      ['low', low],
      ['high', high],
    ] as const)
      write('pressure-noted', { point, pressurePa: Math.round(bar * 1e5 + STANDARD_ATMOSPHERE_PA) }, 0)
    for (const [i, point] of (['suction', 'liquid', 'ambient', 'air-on', 'air-off'] as const).entries())
      write('temperature-noted', { point, tempK: temps[i]! + ZERO_CELSIUS_K }, 0)
  }

  /** Everything since the start is read off the rig at the bridge unit. */
  function recovering(): Entry[] {
    const rig = RIGS.find((each) => each.key === 'bridge')!
    const played = playedUntil(rig, now.getTime())
    const runId = idFor(`job ${idOf(story)} recover`)
    const read = (secondsBefore: number) => {
      const { seq, value } = played.at('weight', secondsBefore)
      at = now.getTime() - secondsBefore * 1_000
      return {
        weightMg: Math.round(value * KG),
        sample: { deviceId: idFor('device bridge'), channel: 'weight' as const, seq },
      }
    }
    const first = read(rig.aheadS)
    const start = {
      runId,
      use: 'recover',
      cylinderId: idFor(story.into),
      ...scaleNamed('Scale 3'),
      mode: 'gross',
    } as const
    write(
      'run-started',
      { ...start, weightMg: first.weightMg, bookedMg: grosses.get(story.into)! },
      0,
      first.sample,
    )
    for (const secondsBefore of [150, 60]) {
      const { weightMg, sample } = read(secondsBefore)
      write('weight-noted', { runId, weightMg }, 0, sample)
    }
    return entries
  }

  /** The charge was gone; repaired, tight, and now the rig at the herring store pulls it down. */
  function evacuating(): Entry[] {
    const rig = RIGS.find((each) => each.key === 'herring')!
    const played = playedUntil(rig, now.getTime())
    write('step-done', { step: 'locked-out' }, 3)
    write('recovery-ended', { how: 'lost' }, 4)
    write('leak-checked', { method: 'nitrogen', found: true, text: story.leak! }, 25)
    write('step-done', { step: 'repair-done' }, 55)
    write('leak-checked', { method: 'nitrogen', found: false, text: '24 bar, 20 min, 16 to 16 °C' }, 25)
    for (const secondsBefore of [300, 120]) {
      const { seq, value } = played.at('vacuum', secondsBefore)
      at = now.getTime() - secondsBefore * 1_000
      write('vacuum-noted', { pressurePa: value }, 0, {
        deviceId: idFor('device herring'),
        channel: 'vacuum',
        seq,
      })
    }
    return entries
  }

  /** Gross weights on the shop's scale, quick at first and slowing towards the end, in steps of 5 g. */
  function weigh(use: 'recover' | 'charge', label: string, massMg: number, minutes: number) {
    const runId = idFor(`job ${idOf(story)} ${use}`)
    const first = grosses.get(label)!
    const sign = use === 'recover' ? 1 : -1
    const tau = minutes / 3
    const moved = (min: number) => Math.round((massMg * (1 - Math.exp(-min / tau))) / (5 * G)) * 5 * G
    write(
      'run-started',
      {
        runId,
        use,
        cylinderId: idFor(label),
        ...scaleNamed(story.onScale ?? (story.by === 'ines' ? 'Scale 3' : 'Scale 2')),
        mode: 'gross',
        weightMg: first,
      },
      4,
    )
    for (let min = 4; min < minutes; min += 4)
      write('weight-noted', { runId, weightMg: first + sign * moved(min) }, 4)
    write('run-ended', { runId, weightMg: first + sign * massMg }, 4)
  }
}
