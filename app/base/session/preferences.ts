import { METRIC_UNITS, type Units, US_UNITS } from '#core/units'

export type Theme = 'auto' | 'light' | 'dark'

export interface Preferences {
  units: Units
  theme: Theme
  /** Where the kit is that this person usually works with; '': not said. */
  van: string
  /** Alarms may be told outside of the page, where the browser lets it. */
  notify: boolean
}

export const DEFAULT_PREFERENCES: Preferences = { units: METRIC_UNITS, theme: 'auto', van: '', notify: true }

/** What a person's row says, with what is missing filled in. */
export function preferencesOf(stored: Record<string, unknown>): Preferences {
  const { units, theme, van, notify } = stored as Partial<Preferences>
  return {
    units: { ...METRIC_UNITS, ...units },
    theme: theme ?? 'auto',
    van: van ?? '',
    notify: notify ?? true,
  }
}

export const UNIT_SYSTEMS = { metric: METRIC_UNITS, us: US_UNITS }
