/** What was typed cannot be read as the quantity. The message tells a technician what to write instead. */
export class UnitError extends Error {
  override name = 'UnitError'
}
