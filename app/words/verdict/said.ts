import { formatTemperatureDifference, MG_PER_KG, PA_PER_MICRON, STANDARD_ATMOSPHERE_PA } from '#core/units'
import type { Quantity, Reason, Rule } from '#core/verdict'
import { type ReadersUnits, show } from '~/base/ui/measure'
import { duration, ruleTime } from '~/base/ui/time'
import { FIGURED_REASONS, RULE_WORDS, VERDICT_REASONS, wordOf } from '../en'

/** A reason in words, with how likely it is where it is one of several. */
export function reasonText({ code, numbers }: Reason, reading: ReadersUnits): string {
  const likely = numbers?.find(({ name }) => name === 'likely')
  const figured = numbers && FIGURED_REASONS[code]
  const words = figured ? filled(figured, numbers, reading) : wordOf(VERDICT_REASONS, code)
  return likely ? `${words.replace(/[.]$/, '')}: ${inTenths(likely.value)}.` : words
}

/** By which rule it was judged, with the figures that it had then. */
export const ruleText = ({ code, numbers, words }: Rule, reading: ReadersUnits): string =>
  code === 'in-words' ? (words ?? '') : filled(wordOf(RULE_WORDS, code), numbers, reading)

/** Words with their figures put in; where one is not known there are dots. */
const filled = (words: string, numbers: readonly Quantity[] = [], reading: ReadersUnits): string =>
  words.replace(/\{([a-z-]+)\}/g, (_, name: string) => {
    const figure = numbers.find((each) => each.name === name)
    if (!figure) return '…'
    return figure.unit === 's' ? ruleTime(Math.ceil(figure.value)) : quantityText(figure, reading)
  })

/** No more digits than such a weighing of causes knows. */
const inTenths = (share: number) =>
  share < 0.05 ? 'hardly' : share > 0.95 ? 'nearly certain' : `about ${Math.round(10 * share)} in 10`

/** A number of a verdict in the reader's units, with its range where it is an estimate. */
export function quantityText({ value, unit, sigma, least, most }: Quantity, reading: ReadersUnits): string {
  const one = (of: number): string => {
    switch (unit) {
      case 'kg':
        return show('weight', of * MG_PER_KG, reading)
      case 'Pa':
        // Verdicts speak of vacuum gauges and of gauges; what is far below atmosphere was read on a vacuum gauge.
        return show(of < 20_000 ? 'vacuum' : 'pressure', of, reading)
      case 'Pa gauge':
        return show('pressure', of + (reading.atmospherePa ?? STANDARD_ATMOSPHERE_PA), reading)
      case 'K':
        return formatTemperatureDifference(of, reading.units.temperature)
      case 's':
        return duration(of)
      case 'mL':
        return show('volume', of, reading)
      case 'share':
        return `${(of * 100).toFixed(1).replace('-', '−')} %`
      case 'count':
        return String(of)
      case 'Pa/s':
        return rateOfVacuum(of, reading)
      case 'Pa m3/s':
        return `${Number((of * 1000).toPrecision(2))} Pa·L/s`
    }
  }
  if (least !== undefined && most !== undefined)
    // A range of a mass is an order of magnitude.
    return unit === 'kg' ? `${one(rough(least))} to ${one(rough(most))}` : `${one(least)} to ${one(most)}`
  return sigma === undefined ? one(value) : `${one(value)} ± ${one(2 * sigma)}`
}

const rough = (value: number) => Number(value.toPrecision(1))

/** How fast a vacuum gauge rises, a minute. */
function rateOfVacuum(paS: number, { units }: ReadersUnits): string {
  const perMinute = units.vacuum === 'micron' ? (60 * paS) / PA_PER_MICRON : 60 * paS
  return `${Number(perMinute.toPrecision(2))} ${units.vacuum}/min`
}
