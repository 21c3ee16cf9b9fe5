import Papa from 'papaparse'
import { parseVacuum, UnitError, type VacuumStyle } from '#core/units'
import type { HoldReading } from '#core/vacuum'

export const MOST_READINGS = 20_000
/** Longer lines than this are no readings. */
const MOST_CELL = 40

/** Why pasted readings cannot be read: what to do about it. */
export class HoldTextError extends Error {
  override name = 'HoldTextError'
}

const TIME_UNITS = new Map(Object.entries({ s: 1, sec: 1, seconds: 1, min: 60, minutes: 60, m: 60, h: 3600 }))
const CLOCK = /^(\d{1,3}):([0-5]?\d)(?::([0-5]?\d))?$/

/**
 * Readings as pasted or dropped: two columns, time and pressure, whichever separates them. A heading may name the
 * units (`t_s`, `min`, `micron`, `Pa`, `mbar`); without one, minutes and the reader's own unit. `1:30` is a minute and
 * a half; with hours it is a time of day.
 * @throws HoldTextError with the line that could not be read
 */
export function readHoldText(text: string, style: VacuumStyle): HoldReading[] {
  const { data } = Papa.parse<string[]>(text.trim(), { skipEmptyLines: 'greedy', ...delimiterOf(text) })
  const rows = data.map((row) => row.map((cell) => cell.trim()).filter((cell) => cell !== ''))
  const head = rows[0] && /^[^\d]*[a-z]/i.test(rows[0][0] ?? '') ? rows.shift()! : undefined
  const timeUnit = unitIn(head?.[0], [...TIME_UNITS.keys()]) ?? 'min'
  const pressureUnit = unitIn(head?.[1], ['micron', 'pa', 'mbar', 'torr', 'hpa']) ?? style
  if (rows.length === 0) throw new HoldTextError('Paste the readings: a time and a pressure on each line.')
  if (rows.length > MOST_READINGS)
    throw new HoldTextError(`More than ${MOST_READINGS} readings: leave every second one out.`)
  const readings = rows.map((row, i) => {
    const line = i + (head ? 2 : 1)
    const [time, ...rest] = row
    const pressure = rest.join(' ')
    if (row.length < 2 || time!.length > MOST_CELL || pressure.length > MOST_CELL)
      throw new HoldTextError(`Line ${line}: a time and a pressure are wanted, such as "5  480".`)
    return { atS: secondsIn(time!, timeUnit, line), pressurePa: pressureIn(pressure, pressureUnit, line) }
  })
  const startS = readings[0]!.atS
  readings.forEach(({ atS }, i) => {
    if (i > 0 && atS <= readings[i - 1]!.atS)
      throw new HoldTextError(`Line ${i + (head ? 2 : 1)}: the time does not go on from the line before.`)
  })
  return readings.map(({ atS, pressurePa }) => ({ atS: atS - startS, pressurePa }))
}

/** A comma between digits may be a decimal one: then something else separates the columns. */
function delimiterOf(text: string): { delimiter?: string } {
  const line = text.trim().split(/\r?\n/).at(-1) ?? ''
  const found = ['\t', ';', ','].find((each) => line.includes(each))
  if (!found) return { delimiter: ' ' }
  return { delimiter: found }
}

function unitIn(heading: string | undefined, units: string[]): string | undefined {
  const words = heading?.toLowerCase().split(/[^a-z]+/) ?? []
  return units.find((unit) => words.includes(unit) || words.includes(`${unit}s`))
}

function secondsIn(text: string, unit: string, line: number): number {
  const clock = CLOCK.exec(text)
  if (clock) {
    const [, a, b, c] = clock
    return c === undefined ? 60 * Number(a) + Number(b) : 3600 * Number(a) + 60 * Number(b) + Number(c)
  }
  const [, number, own] = /^(\d+(?:[.,]\d+)?) ?([a-z]+)?$/i.exec(text) ?? []
  const scale = TIME_UNITS.get((own ?? unit).toLowerCase())
  if (number === undefined || scale === undefined)
    throw new HoldTextError(`Line ${line}: "${text}" is no time: write minutes, 1:30, or 90 s.`)
  return Number(number.replace(',', '.')) * scale
}

function pressureIn(text: string, unit: string, line: number): number {
  try {
    if (/[a-z]/i.test(text)) return parseVacuum(text, 'micron')
    return parseVacuum(
      unit === 'hpa' ? `${text} mbar` : unit === 'torr' ? `${text} torr` : `${text} ${unit}`,
      'micron',
    )
  } catch (error) {
    if (!(error instanceof UnitError)) throw error
    throw new HoldTextError(`Line ${line}: ${error.message}`)
  }
}
