import { type JobState, kitAt } from '#core/tape'
import type { PastRun } from '#core/recovery'
import type {
  BeforeRetrofit,
  BottleRow,
  CylinderRow,
  DoubtfulTransfer,
  KitRow,
  OpenTape,
  Preset,
  StandIn,
  StationRow,
  SystemRow,
} from '#db'
import { jobKit } from '~/kit/as-job-kit'
import type { LiveSource } from '~/samples/live-source'
import { choiceOf } from '~/systems/choice'

/** A cylinder as a job sees it: its books without what this job has moved. */
export interface JobCylinder extends CylinderRow {
  beforeMg: number
}

/** What the books know of a job beside its tape. */
export interface JobBeside {
  /** What they had in its system when it began; null: they do not know the whole of it. */
  booksBefore: { massMg: number } | null
  /** What they had in it themselves, known whole or not, mg. */
  inBooksMg: number
  /** When anybody charged the system last before this job, ms; null: the books know of none. */
  lastCharged: number | null
  /** When another job dyed the system, ms; null: the books know of none. */
  dyedAt: number | null
  /** What each cylinder has gained from this job so far, mg. */
  gains: [cylinderId: string, massMg: number][]
  /** Cylinders and scales that transfers of other jobs are running on. */
  busy: string[]
  /** Transfers that a scale weighed which failed its check since, as long as nobody decided. */
  doubts: DoubtfulTransfer[]
  /** What the machine of this job took out before, and in how long. */
  pastRuns: PastRun[]
  /** How late this person closed the valve in past charges, s, the newest first. */
  chargeLags: number[]
  /** The system's plate as it was, where this job changed the gas. */
  plateWas: BeforeRetrofit | null
}

/** The shop's service stations, its programmes, and the bottles that stand in them. */
export interface Bay {
  stations: StationRow[]
  presets: Preset[]
  bottles: BottleRow[]
}

/** All that a job's page is made of, wherever it was looked up: in the books, or in what a device has kept of them. */
export interface JobFacts {
  jobId: string
  /** null: begun without signal, and not numbered yet. */
  number: number | null
  tape: OpenTape
  /** What the tape says. */
  state: JobState
  beside: JobBeside
  system: SystemRow | undefined
  /** Those in use that hold the job's gas or nothing, the fullest first. */
  candidates: CylinderRow[]
  /** Those that the job uses or has used. */
  named: CylinderRow[]
  /** What is in the person's van, the shop's scales, and what the job used. */
  kit: KitRow[]
  places: string[]
  /** Systems to choose from, where the job has none. */
  choices: SystemRow[]
  live: LiveSource[]
  standIns: StandIn[]
  bay: Bay | null
  /** Names by id. */
  people: Record<string, string>
  van: string
  shop: { timeZone: string; fillMarginPct: number; heading: string }
  /** Where the shop is. */
  today: string
  loadedAt: number
  mayWrite: boolean
}

/** A job as its pages show it. */
export function jobData(facts: JobFacts) {
  const { jobId, number, tape, beside, system, shop, today } = facts
  const { gains, plateWas, ...books } = beside
  const gained = new Map(gains)
  const cylinders = new Map<string, JobCylinder>()
  for (const row of [...worthOffering(facts.candidates), ...facts.named])
    cylinders.set(row.cylinderId, { ...row, beforeMg: row.balanceMg - (gained.get(row.cylinderId) ?? 0) })
  const kit = new Map(facts.kit.map((row) => [row.kitId, jobKit(row, today)]))
  return {
    jobId,
    number,
    checkpoint: tape.checkpoint,
    entries: tape.entries,
    // A job that changed the gas is judged by the plate that it found.
    system: system
      ? {
          ...system,
          ...(plateWas && {
            plateMg: plateWas.wasPlateMg,
            plateText: plateWas.wasPlateText,
            panelTotalMg: plateWas.wasPanelMg,
          }),
        }
      : null,
    ...books,
    cylinders: [...cylinders.values()],
    systems: facts.choices.map(choiceOf),
    people: facts.people,
    shop: { timeZone: shop.timeZone, marginPct: shop.fillMarginPct, heading: shop.heading },
    /** Kit to choose from. */
    kit: [...kit.values()],
    van: facts.van,
    places: facts.places,
    /** Channels that were kit of this job, and those of kit that it may take. */
    live: facts.live,
    standIns: facts.standIns,
    /** Of vehicles only. */
    bay: facts.bay,
    today,
    loadedAt: facts.loadedAt,
    mayWrite: facts.mayWrite,
  }
}

export type JobData = ReturnType<typeof jobData>

/** Cylinders that a job uses or has used. */
export const usedBy = (state: JobState): string[] => [
  ...new Set([...state.transfers, ...state.chosen].map((each) => each.cylinderId)),
]

/** Kit that a job uses or has used. */
export const kitUsedBy = (state: JobState): string[] => [...new Set(state.kit.map((each) => each.kitId))]

/** What a job pulls with. */
export const machineOf = (state: JobState) => kitAt(state, ['machine', 'station'])

/** Whether a job is for the vehicle bay. */
export const inBay = (state: JobState, system: SystemRow | undefined): boolean =>
  system?.trade === 'vehicle' || state.programmes.length > 0

const OFFERED = { used: 40, empty: 10, virgin: 20 }

/** Enough of each kind to choose from: the page names others by their label. The fullest come first. */
function worthOffering(candidates: CylinderRow[]): CylinderRow[] {
  const virgin = candidates.filter((c) => c.kind === 'virgin' || c.kind === 'one-way')
  const others = candidates.filter((c) => !virgin.includes(c))
  const empty = others.filter((c) => c.refrigerant === null)
  const used = others.filter((c) => c.refrigerant !== null)
  // The emptiest of them take what the fullest cannot.
  const fullest = used.slice(0, OFFERED.used / 2)
  const emptiest = used.slice(OFFERED.used / 2).slice(-OFFERED.used / 2)
  return [...fullest, ...emptiest, ...empty.slice(0, OFFERED.empty), ...virgin.slice(0, OFFERED.virgin)]
}
