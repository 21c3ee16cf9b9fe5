/** What a form comes back as when no answer came: it waits on this device, and there is nothing to load again. */
export interface UnsentForm<T> {
  unsent: T
}

export const isUnsent = (result: unknown): result is UnsentForm<unknown> =>
  typeof result === 'object' && result !== null && 'unsent' in result
