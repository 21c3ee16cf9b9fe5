import { type Chapter, PLAIN } from '../envelope/chapter'

/** What is replaced, in the trade's words. */
export const PARTS = [
  'compressor',
  'drier',
  'valve',
  'evaporator',
  'condenser',
  'accumulator',
  'hose',
  'cores',
  'seal',
  'contactor',
  'fan',
  'sensor',
  'other',
] as const
export type Part = (typeof PARTS)[number]

export type PhotoOf = 'before' | 'after' | 'other'

export interface RepairBodies {
  /** A part renewed: the oil that it takes with it, and what it changes in the charge. */
  'part-replaced': { part: Part; number: string; text: string; oilMl?: number; chargeMg?: number }
  /** Taken off, and to come back at the close. */
  'taken-off': { itemId: string; what: string }
  'put-back': { itemId: string }
  /** Left off at the close, with why. */
  'left-off': { itemId: string; reason: string }
  /** The picture itself is kept by the server; here it is shown. */
  'photo-noted': { photoId: string; of: PhotoOf; text: string }
  /** No picture is ever deleted: it is no longer shown. */
  'photo-hidden': { photoId: string; reason: string }
}

export interface ReplacedPart {
  entryId: string
  at: number
  part: Part
  number: string
  text: string
  oilMl: number
  chargeMg: number
}

export interface TakenOff {
  itemId: string
  at: number
  what: string
  backAt?: number
  leftOff?: string
}

export interface Photo {
  photoId: string
  at: number
  of: PhotoOf
  text: string
  hidden?: string
}

export interface RepairSlice {
  parts: ReplacedPart[]
  takenOff: TakenOff[]
  /** What came before the item itself: back, or left off with why. */
  earlyItems: Record<string, { backAt?: number; leftOff?: string }>
  photos: Photo[]
  hiddenEarly: Record<string, string>
}

export const repair: Chapter<RepairBodies, RepairSlice> = {
  blank: () => ({ parts: [], takenOff: [], earlyItems: {}, photos: [], hiddenEarly: {} }),
  kinds: {
    'part-replaced': {
      ...PLAIN,
      ownId: null,
      fold(state, { part, number, text, oilMl = 0, chargeMg = 0 }, { entryId, time }) {
        state.parts.push({ entryId, at: time, part, number, text, oilMl, chargeMg })
        if (oilMl === 0) return
        state.oil.noted = true
        state.oil.partsMl += oilMl
        state.oil.partsAt = time
      },
    },
    'taken-off': {
      ...PLAIN,
      ownId: 'itemId',
      fold(state, { itemId, what }, { time }) {
        state.takenOff.push({ itemId, at: time, what, ...state.earlyItems[itemId] })
      },
    },
    'put-back': {
      ...PLAIN,
      ownId: null,
      fold(state, { itemId }, { time }) {
        const item = state.takenOff.find((each) => each.itemId === itemId)
        if (item) item.backAt ??= time
        else state.earlyItems = { ...state.earlyItems, [itemId]: { backAt: time } }
      },
    },
    'left-off': {
      ...PLAIN,
      ownId: null,
      fold(state, { itemId, reason }) {
        const item = state.takenOff.find((each) => each.itemId === itemId)
        if (item) item.leftOff = reason
        else state.earlyItems = { ...state.earlyItems, [itemId]: { leftOff: reason } }
      },
    },
    'photo-noted': {
      ...PLAIN,
      ownId: 'photoId',
      correctable: false,
      afterClose: true,
      fold(state, { photoId, of, text }, { time }) {
        const hidden = state.hiddenEarly[photoId]
        state.photos.push({ photoId, at: time, of, text, ...(hidden !== undefined && { hidden }) })
      },
    },
    'photo-hidden': {
      ...PLAIN,
      ownId: null,
      correctable: false,
      afterClose: true,
      fold(state, { photoId, reason }) {
        const photo = state.photos.find((each) => each.photoId === photoId)
        if (photo) photo.hidden = reason
        else state.hiddenEarly = { ...state.hiddenEarly, [photoId]: reason }
      },
    },
  },
  progress: {
    repair: ({ parts, steps }) =>
      steps.some(({ step }) => step === 'repair-done')
        ? 'done'
        : parts.length > 0 || steps.some(({ step }) => step.startsWith('repair-'))
          ? 'begun'
          : 'untouched',
  },
}
