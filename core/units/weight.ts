import { MG_PER_G, MG_PER_KG, MG_PER_LB, MG_PER_OZ } from './factors'
import { asDecimal, NUMERAL, numeralReadings, readNumeral, refuseSpaced, tidy, trimmed } from './numeral'
import { AmbiguousError, UnitError } from './unit-error'

/** The unit that a bare number is taken in. */
export type WeightUnit = 'lb' | 'oz' | 'kg' | 'g'
/** How weights are shown. */
export type WeightStyle = 'lb-oz' | 'kg'

export interface WeightReading {
  /** Whole milligrams. */
  massMg: number
  /** The same in a notation that has one reading only: `3 lb 9 oz`. */
  notation: string
}

/** What was typed has one reading, or several to choose from by a tap. */
export type WeightParse = { kind: 'one'; massMg: number } | { kind: 'choose'; readings: WeightReading[] }

const MG_PER: Record<WeightUnit, number> = { lb: MG_PER_LB, oz: MG_PER_OZ, kg: MG_PER_KG, g: MG_PER_G }
const LB = String.raw`(?:lbs?|#|pounds?)\.?`
const OZ = String.raw`(?:oz|ounces?)\.?`
const KG = String.raw`(?:kgs?|kilos?|kilograms?)`
const G = String.raw`(?:g|gr|grams?)`

const POUNDS_OUNCES = new RegExp(`^(${NUMERAL}) ?${LB} ?(${NUMERAL})(?: ?${OZ})?$`)
const WITH_UNIT = new RegExp(`^(${NUMERAL}) ?(?:(${LB})|(${OZ})|(${KG})|(${G}))$`)
const BARE = new RegExp(`^(${NUMERAL})$`)
const PAIR = /^(\d+) ?[- ] ?(\d+(?:[.,]\d+)?)$/

/** Between a few grams and a large cylinder: what a bare number can sensibly mean. */
const LIKELY_MG = { least: 5 * MG_PER_G, most: 150 * MG_PER_KG }

/**
 * Reads a weight in any notation of the field: `3 lb 9 oz`, `3lb9`, `3# 9`, `3.56 lb`, `57 oz`, `0.75 kg`, `750 g`,
 * decimal comma, leading minus. `3-9` and a bare number without `unit` have several readings: offer them.
 * @param unit unit shown beside the field; bare numbers are taken in it
 * @returns whole milligrams, rounded once, here
 * @throws UnitError when it is no weight
 */
export function parseWeight(text: string, unit?: WeightUnit): WeightParse {
  const typed = tidy(text)
  if (typed === '') throw new UnitError('Write a weight, such as 12 lb 4 oz or 5.55 kg.')
  refuseSpaced(text)
  if (/^-[^-]/.test(typed)) return negated(parseWeight(typed.slice(1), unit))

  const poundsOunces = POUNDS_OUNCES.exec(typed)
  if (poundsOunces) return one(fromPoundsOunces(poundsOunces[1]!, poundsOunces[2]!))

  const withUnit = WITH_UNIT.exec(typed)
  if (withUnit) {
    const found: WeightUnit = withUnit[2] ? 'lb' : withUnit[3] ? 'oz' : withUnit[4] ? 'kg' : 'g'
    const numeral = withUnit[1]!
    return inUnit(numeral, found)
  }

  const bare = BARE.exec(typed)
  if (bare) {
    if (unit) return inUnit(bare[1]!, unit)
    const likely = numeralReadings(bare[1]!)
      .flatMap(({ value, text: numeral }) =>
        (['g', 'kg', 'lb', 'oz'] as const).map((u) => ({
          massMg: whole(value * MG_PER[u]),
          notation: `${numeral.includes('/') ? trimmed(value, 3) : numeral} ${u}`,
        })),
      )
      .filter(({ massMg }) => massMg >= LIKELY_MG.least && massMg <= LIKELY_MG.most)
    if (likely.length === 0) throw new UnitError(`"${text}" needs its unit: write lb, oz, kg or g after it.`)
    return { kind: 'choose', readings: likely }
  }

  const pair = PAIR.exec(typed)
  if (pair) return pairReadings(pair[1]!, pair[2]!)

  throw new UnitError(
    `"${text}" is not a weight Keg can read: write it like 12 lb 4 oz, 12.25 lb, 5.55 kg or 750 g.`,
  )
}

/** The reading, where there is one only. @throws UnitError when there are several */
export function oneWeight(text: string, unit?: WeightUnit): number {
  const parse = parseWeight(text, unit)
  if (parse.kind === 'one') return parse.massMg
  throw new AmbiguousError(
    text,
    parse.readings.map(({ massMg, notation }) => ({ value: massMg, notation })),
  )
}

/** Up to 15, as ounces go: `3.6` and `3.12`, not `3.60`. */
const TENTHS_OR_OUNCES = /^(\d+)[.,]([1-9]|1[0-5])$/

/**
 * Reads a charge from a plate. What follows the point of pounds is written for a part of a pound and for ounces alike: `3.6` is
 * 3.6 lb on one plate and 3 lb 6 oz on the next, `3.12` is 3 lb 12 oz as often, so both are offered.
 * @throws UnitError when it is no weight, AmbiguousError when it has several readings
 */
export function plateWeight(text: string, unit?: WeightUnit): number {
  const typed = tidy(text)
  const pounds = new RegExp(`^(.*?) ?${LB}$`).exec(typed)
  const found = TENTHS_OR_OUNCES.exec(pounds ? pounds[1]! : unit === 'lb' ? typed : '')
  if (!found) return oneWeight(text, unit)
  const [, whole_, digits] = found
  const reading = (notation: string) => ({ value: oneWeight(notation), notation })
  throw new AmbiguousError(text, [
    // With zeros that neither ounces nor thousands have: chosen, it is read at once.
    reading(`${whole_}.${digits}${digits!.length === 1 ? '0' : '00'} lb`),
    reading(`${whole_} lb ${digits} oz`),
  ])
}

/**
 * A weight as a technician reads it from a scale: quarter ounces or 5 g; a small charge is weighed on a finer scale, so
 * below a pound 0.05 oz, below 500 g one gram.
 */
export function formatWeight(massMg: number, style: WeightStyle): string {
  const sign = massMg < 0 ? '−' : ''
  const size = Math.abs(massMg)
  if (style === 'lb-oz') {
    const step = size < MG_PER_LB ? 20 : 4
    const parts = Math.round((size / MG_PER_OZ) * step)
    const pounds = Math.floor(parts / (16 * step))
    const ounces = trimmed((parts % (16 * step)) / step, 2)
    if (parts === 0) return '0 oz'
    return sign + (pounds ? `${pounds} lb ${ounces} oz` : `${ounces} oz`)
  }
  const stepG = size < 500 * MG_PER_G ? 1 : 5
  const grams = Math.round(size / (stepG * MG_PER_G)) * stepG
  if (grams === 0) return '0 g'
  return sign + (grams < 1000 ? `${grams} g` : `${(grams / 1000).toFixed(3)} kg`)
}

/** How fast a weight moves, from kg/s, a minute: two digits are all that a scale of some grams knows of it. */
export function formatRate(kgPerS: number, style: WeightStyle): string {
  const mgPerMin = Math.abs(kgPerS) * 60 * MG_PER_KG
  const [small, large] = style === 'lb-oz' ? (['oz', 'lb'] as const) : (['g', 'kg'] as const)
  const rounded = (unit: WeightUnit) => (mgPerMin / MG_PER[unit]).toPrecision(2)
  const unit = Number(rounded(large)) < 1 ? small : large
  const text = rounded(unit)
  // Below a gram no scale tells it; a hundred and more would be 1.2e+2.
  const shown = unit === 'g' || Number(text) >= 100 ? String(Math.round(Number(text))) : text
  return `${kgPerS < 0 ? '−' : ''}${shown} ${unit}/min`
}

/** Decimal pounds and kilograms for exports: three decimals, no unit. */
export function massNumber(massMg: number, unit: 'lb' | 'kg' | 'g'): string {
  return (massMg / MG_PER[unit]).toFixed(unit === 'g' ? 0 : 3)
}

/** The weight in all notations at once, the reader's own first, so that 3.6 lb is not taken for 3 lb 6 oz. */
export function echoWeight(massMg: number, style: WeightStyle = 'lb-oz'): string {
  const sign = massMg < 0 ? '−' : ''
  const size = Math.abs(massMg)
  const tenths = Math.round((size / MG_PER_OZ) * 10)
  const pounds = Math.floor(tenths / 160)
  const ounces = trimmed((tenths % 160) / 10, 1)
  const decimal = `${sign}${trimmed(size / MG_PER_LB, 3)} lb`
  const split = pounds ? `${sign}${pounds} lb ${ounces} oz` : `${sign}${ounces} oz`
  const metric =
    size < MG_PER_KG
      ? `${sign}${trimmed(size / MG_PER_G, 0)} g`
      : `${sign}${(size / MG_PER_KG).toFixed(3)} kg`
  const parts = style === 'kg' ? [metric, decimal, split] : [decimal, split, metric]
  return parts.join(' = ')
}

function fromPoundsOunces(pounds: string, ounces: string): number {
  const oz = readNumeral(ounces)
  if (oz >= 16)
    throw new UnitError(
      `${ounces} oz is more than a pound: write it with less than 16 oz, or as ounces only.`,
    )
  if (/[.,/]/.test(pounds))
    throw new UnitError(
      `"${pounds} lb ${ounces} oz" has a part of a pound twice: write ${pounds} lb, or whole pounds and ounces.`,
    )
  return readNumeral(pounds) * MG_PER_LB + oz * MG_PER_OZ
}

function pairReadings(left: string, right: string): WeightParse {
  const readings: WeightReading[] = []
  if (readNumeral(right) < 16)
    readings.push({
      massMg: whole(fromPoundsOunces(left, right)),
      notation: `${left} lb ${right.replace(',', '.')} oz`,
    })
  if (/^\d+$/.test(right)) {
    const decimal = Number(`${left}.${right}`)
    readings.push({ massMg: whole(decimal * MG_PER_LB), notation: `${asDecimal(decimal)} lb` })
    readings.push({ massMg: whole(decimal * MG_PER_KG), notation: `${asDecimal(decimal)} kg` })
  }
  if (readings.length === 0)
    throw new UnitError(
      `${right} oz is more than a pound: write ${left} lb with less than 16 oz, or a decimal such as ${left}.5 lb.`,
    )
  if (readings.length === 1) return { kind: 'one', massMg: readings[0]!.massMg }
  return { kind: 'choose', readings }
}

function negated(parse: WeightParse): WeightParse {
  if (parse.kind === 'one') return { kind: 'one', massMg: -parse.massMg }
  return {
    kind: 'choose',
    readings: parse.readings.map((r) => ({ massMg: -r.massMg, notation: `-${r.notation}` })),
  }
}

/** Thousands of kilograms are on no scale of the trade: `14.250 kg` is what such scales show. */
const POINT_IN_KG = /^\d+\.\d{3}$/

function inUnit(numeral: string, unit: WeightUnit): WeightParse {
  const readings = numeralReadings(numeral)
    .slice(0, unit === 'kg' && POINT_IN_KG.test(numeral) ? 1 : 2)
    .map(({ value, text }) => ({ massMg: whole(value * MG_PER[unit]), notation: `${text} ${unit}` }))
  return readings.length === 1 ? { kind: 'one', massMg: readings[0]!.massMg } : { kind: 'choose', readings }
}

function one(massMg: number): WeightParse {
  return { kind: 'one', massMg: whole(massMg) }
}

function whole(massMg: number): number {
  if (massMg > 1e12)
    throw new UnitError(
      "That is heavier than anything on a technician's scale: check the number and its unit.",
    )
  return Math.round(massMg)
}
