import type { Refused, Typed } from './read.server'

/**
 * A form that was opened with an older state of what it changes. Both values are shown; what was typed stays, and
 * counts when it is sent again.
 * @param typed as it was sent, with the `version` it was opened with
 * @param mine what was sent, as the form would show it @param now what is there, as the form shows it
 * @returns undefined where both say the same
 */
export function staleForm(
  typed: Typed,
  mine: Typed,
  now: Typed,
  version: number,
  inWords: (name: string, value: string) => string = (_name, value) => value,
): Refused | undefined {
  const errors = Object.fromEntries(
    Object.keys(now)
      .filter((name) => (mine[name] ?? '') !== now[name])
      .map((name) => [
        name,
        `Somebody changed this form’s data since you opened it. There now: ${inWords(name, now[name]!) || 'nothing'}. ` +
          `Yours: ${inWords(name, mine[name] ?? '') || 'nothing'}. Send it again to put yours in its place.`,
      ]),
  )
  if (Object.keys(errors).length === 0) return undefined
  return { errors, typed: { ...typed, version: String(version) } }
}
