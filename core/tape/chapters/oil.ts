import type { Chapter } from '../chapter'

export interface OilBodies {
  'oil-noted': { direction: 'out' | 'parts' | 'in'; volumeMl: number; text: string }
}

export interface OilSlice {
  oil: { outMl: number; partsMl: number; inMl: number; noted: boolean }
}

export const oil: Chapter<OilBodies, OilSlice> = {
  blank: () => ({ oil: { outMl: 0, partsMl: 0, inMl: 0, noted: false } }),
  kinds: {
    'oil-noted': {
      version: 1,
      upcast: [],
      refs: () => ({}),
      ownId: null,
      figure: { quantity: 'volume', key: 'volumeMl' },
      correctable: true,
      afterClose: false,
      decides: null,
      fold(state, { direction, volumeMl }) {
        state.oil.noted = true
        state.oil[`${direction}Ml`] += volumeMl
      },
    },
  },
  progress: {
    oil: ({ oil: { noted, inMl, outMl, partsMl } }) =>
      !noted ? 'untouched' : inMl >= outMl + partsMl - 1e-6 ? 'done' : 'begun',
  },
}
