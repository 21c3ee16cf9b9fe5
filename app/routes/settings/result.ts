import type { Typed } from '~/form/read.server'

/** What became of one of the forms on this page. */
export interface Result {
  intent?: string
  done?: string
  errors?: Record<string, string>
  typed?: Typed
  /** A token just made, shown once. */
  token?: string
}

/** Value and error of a field, when it was this form that was sent. */
export function fieldsOf(result: Result | undefined, intent: string, start: Typed = {}) {
  const own = result?.intent === intent && result.errors ? result : undefined
  return (name: string) => ({ name, value: own?.typed?.[name] ?? start[name], error: own?.errors?.[name] })
}
