/** A day that exists, in a time in which there is anything to write down: no 31st of February, no year 9999. */
export function isDay(text: string): boolean {
  const date = new Date(`${text}T00:00:00Z`)
  if (!/^(19|20|21)\d{2}-\d{2}-\d{2}$/.test(text) || Number.isNaN(date.getTime())) return false
  return date.toISOString().startsWith(text)
}
