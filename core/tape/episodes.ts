import type { RecoveryEndKind } from '../recovery'
import { STANDARD_ATMOSPHERE_PA } from '../units'
import { gaugeAt } from './instruments'
import type { JobState } from './state'
import { netMg, type Transfer } from './weighings'

/**
 * What is in the system from one emptying to the next. It ends when the system has been emptied (said and, where
 * readings exist, borne out); the next one begins with the first gas that goes in after that.
 */
export interface Episode {
  /** as-found: with whatever was in it when the job began. empty: after an emptying. */
  began: 'as-found' | 'empty'
  outMg: number
  outSigmaMg: number
  inMg: number
  inSigmaMg: number
  /** Out less in, up to the last pull: what a recovery is judged by in an episode that was found. */
  recoveredMg: number
  /** Left in a machine that was not purged: out of the system, in no cylinder. */
  keptMg: number
  pulls: number
  charges: number
  /** The last end said, while no pull has followed. */
  end?: EpisodeEnd
  /** Empty since. */
  emptiedAt?: number
  /** Empty by a deep vacuum, without anybody having said what became of the gas. */
  unaccounted?: boolean
  /** What the last transfer did; undefined: none yet. */
  lastWas?: Transfer['use']
  lastAt?: number
}

export interface EpisodeEnd {
  entryId: string
  at: number
  how: RecoveryEndKind
  /** Low pressure noted after the last pull that says otherwise, absolute Pa. */
  contradictedPa?: number
}

/** A pump is at work: far below any level that a recovery goes to (the lowest is 25 mm of mercury, 3.3 kPa). */
export const DEEP_VACUUM_PA = 3_000
/** Empty, whoever took it out. */
const EMPTIES: RecoveryEndKind[] = ['emptied', 'lost', 'elsewhere', 'never-filled']

type Event =
  | { at: number; order: number; transfer: Transfer }
  | { at: number; order: number; end: JobState['recoveryEnds'][number] }
  | { at: number; order: number; kept: JobState['rigKept'][number] }
  | { at: number; order: number; deepVacuum: true }

/** Transfers (by their end), ends and deep vacuums, in tape order. */
export function eventsOf(state: JobState): Event[] {
  const events: Event[] = [
    ...state.transfers.map((transfer) => ({ at: transferAt(transfer), order: transfer.order, transfer })),
    ...state.recoveryEnds.map((end) => ({ at: end.at, order: end.order, end })),
    ...state.rigKept.map((kept) => ({ at: kept.at, order: kept.order, kept })),
    ...state.deepVacuums.map((each) => ({ ...each, deepVacuum: true as const })),
  ]
  return events.sort((a, b) => a.order - b.order)
}

/** When a transfer is booked: at its end, or as far as it has come. */
export function transferAt(transfer: Transfer): number {
  return transfer.endedAt ?? transfer.weighings.at(-1)!.at
}

export function episodesOf(state: JobState): Episode[] {
  const episodes: Episode[] = [blank('as-found')]
  let now = episodes[0]!
  for (const event of eventsOf(state)) {
    if ('transfer' in event) {
      const { transfer, at } = event
      if (transfer.use === 'charge' && now.emptiedAt !== undefined) episodes.push((now = blank('empty')))
      add(now, transfer, at)
    } else if ('kept' in event) {
      now.keptMg += event.kept.massMg
    } else if ('end' in event) {
      const { end } = event
      const contradictedPa = end.how === 'emptied' ? pressureAgainst(state, now, end.at) : undefined
      now.end = { ...end, ...(contradictedPa === undefined ? {} : { contradictedPa }) }
      if (EMPTIES.includes(end.how) && contradictedPa === undefined) {
        now.emptiedAt ??= end.at
        delete now.unaccounted
      } else if (end.how === 'shut-in') {
        // The vacuum is that of the rest of the circuit.
        delete now.emptiedAt
        delete now.unaccounted
      }
    } else if (now.emptiedAt === undefined && now.end?.how !== 'shut-in') {
      now.emptiedAt = event.at
      now.unaccounted = true
    }
  }
  return episodes
}

function blank(began: Episode['began']): Episode {
  return {
    began,
    outMg: 0,
    outSigmaMg: 0,
    inMg: 0,
    inSigmaMg: 0,
    recoveredMg: 0,
    keptMg: 0,
    pulls: 0,
    charges: 0,
  }
}

function add(episode: Episode, transfer: Transfer, at: number) {
  episode.lastWas = transfer.use
  episode.lastAt = at
  if (transfer.use === 'charge') {
    episode.inMg += netMg(transfer)
    episode.inSigmaMg = Math.round(Math.hypot(episode.inSigmaMg, transfer.sigmaMg))
    episode.charges++
    return
  }
  episode.outMg += netMg(transfer)
  episode.outSigmaMg = Math.round(Math.hypot(episode.outSigmaMg, transfer.sigmaMg))
  episode.recoveredMg = episode.outMg - (episode.began === 'as-found' ? episode.inMg : 0)
  episode.pulls++
  delete episode.end
}

/** The newest low pressure noted between the last pull and an end, where it stands well above atmosphere. */
function pressureAgainst(state: JobState, episode: Episode, at: number): number | undefined {
  if (episode.lastAt === undefined) return undefined
  const noted = state.pressureNotes.findLast(
    (each) => each.point === 'low' && each.at >= episode.lastAt! && each.at <= at,
  )
  if (!noted) return undefined
  // What its gauge may be off: a system that stands higher above atmosphere than that is not empty.
  const edgePa = (noted.atmospherePa ?? STANDARD_ATMOSPHERE_PA) + gaugeAt(state, noted.at).value
  return noted.value > edgePa ? noted.value : undefined
}

/**
 * Whether gas was recovered in an episode, rather than a little taken out again of what had just been put in: by what
 * was said, or by more than half of it being out.
 */
export function isRecovered(episode: Episode): boolean {
  if (episode.end !== undefined) return true
  if (episode.pulls === 0) return false
  return episode.began === 'as-found'
    ? episode.lastWas === 'recover' || episode.charges === 0
    : episode.outMg > episode.inMg / 2
}

/**
 * Since when the circuit may be opened: emptied, or its charge shut into another part, with nothing charged since.
 * @returns undefined while there is gas in it
 */
export function openedAt({ episodes }: Pick<JobState, 'episodes'>): number | undefined {
  const now = episodes.at(-1)!
  if (now.end?.how === 'shut-in') return now.end.at
  if (now.emptiedAt === undefined) return undefined
  // Emptied before this job began: nothing here came before it.
  return now.unaccounted && now.pulls + now.charges === 0 ? -Infinity : now.emptiedAt
}

/** The episode that a recovery is judged by: the last one that was recovered from. */
export function recoveredEpisode(state: Pick<JobState, 'episodes'>): Episode | undefined {
  return state.episodes.findLast((each) => isRecovered(each) || (each.began === 'as-found' && each.pulls > 0))
}

/** What was weighed into the system since it was empty, mg; null: nothing, or it was not empty. */
export function weighedSinceEmpty({ episodes }: Pick<JobState, 'episodes'>): number | null {
  const now = episodes.at(-1)!
  const weighed = now.began === 'empty' && now.emptiedAt === undefined && now.inMg > now.outMg
  return weighed ? now.inMg - now.outMg : null
}

/** Whether the system was emptied in this job, all of it accounted for: from then on the books know what is in it. */
export const everEmptied = ({ episodes }: Pick<JobState, 'episodes'>): boolean =>
  episodes.some((each) => each.emptiedAt !== undefined && !each.unaccounted)
