/** What was typed is no such quantity; the message says what to write. */
export class UnitError extends Error {
  override name = 'UnitError'
}

/** One way to read what was typed. */
export interface UnitReading {
  /** In the unit that the reading function gives. */
  value: number
  /** The same in a notation that has one reading only. */
  notation: string
}

/** What was typed can be read in several ways: offer them, never choose one. */
export class AmbiguousError extends UnitError {
  override name = 'AmbiguousError'
  constructor(
    text: string,
    readonly readings: UnitReading[],
  ) {
    super(
      `"${text}" can be read as ${readings.map((r) => r.notation).join(' or ')}: write which one you mean.`,
    )
  }
}
