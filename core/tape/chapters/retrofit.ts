import { type Chapter, PLAIN, wordsOnly } from '../envelope/chapter'
import { isEmpty } from '../mass/episodes'

/** What a change to another gas asks for beside the charge. */
export const RETROFIT_STEPS = [
  'retrofit-drier',
  'retrofit-seals',
  'retrofit-oil',
  'retrofit-superheat',
  'retrofit-label',
] as const
export type RetrofitStep = (typeof RETROFIT_STEPS)[number]

export interface RetrofitBodies {
  /** What the job is for: the system is to hold another gas at its end. */
  'retrofit-planned': Record<string, never>
  /** From here on the system holds another gas. @param platePct how much of the plate's mass goes in, percent */
  'gas-changed': { to: string; oilType: string; platePct?: number; reason: string }
}

export interface GasChange {
  entryId: string
  at: number
  /** null: nobody had said what was in it. */
  from: string | null
  to: string
  oilType: string
  platePct?: number
  reason: string
}

export interface RetrofitSlice {
  gasChanges: GasChange[]
  retrofitPlanned: boolean
}

export const retrofit: Chapter<RetrofitBodies, RetrofitSlice> = {
  blank: () => ({ gasChanges: [], retrofitPlanned: false }),
  kinds: {
    'retrofit-planned': wordsOnly<RetrofitBodies['retrofit-planned']>(
      (state) => {
        state.retrofitPlanned = true
      },
      { correctable: true },
    ),
    'gas-changed': {
      ...PLAIN,
      fold(state, body, { entryId, time }) {
        state.gasChanges.push({ entryId, at: time, from: state.refrigerant, ...body })
        state.refrigerant = body.to
        // What was chosen, aimed at or planned was so for the old gas.
        state.chosen = state.chosen.filter((each) => each.use !== 'charge')
        delete state.target
      },
    },
  },
  // Shut into another part, the old gas is in it still.
  next: (state) =>
    state.retrofitPlanned && state.gasChanges.length === 0 && isEmpty(state) ? 'change-gas' : undefined,
}
