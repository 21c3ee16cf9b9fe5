import type { JobState, JudgingContext } from '#core/tape'
import type { Say } from '~/words/tape/say'
import type { ReadersUnits } from '~/base/ui/measure'
import { PHOTO_WORDS } from '~/words/en'
import type { JobData } from '~/job-data/data'

export type Copy = 'customer' | 'full'

/** A job as it goes on paper. */
export interface PaperJob {
  data: JobData
  state: JobState
  judging: JudgingContext
  reading: ReadersUnits
  copy: Copy
  photos: { words: string; jpeg: Buffer }[]
}

export type Show = Say['show']

/** The words below a photo. */
export const photoWords = ({ of, text }: JobState['photos'][number]) =>
  `${PHOTO_WORDS[of]}${text ? `: ${text}` : ''}`
