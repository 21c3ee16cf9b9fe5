import { MG_PER_KG } from '../units'
import type { Verdict } from '../verdict'

export interface Recovered {
  massMg: number
  /** One standard deviation of the weighing, mg. */
  sigmaMg: number
}

/** What a finished recovery leaves behind in oil, corners and hoses: 30 g and 1 % of the charge. */
const REST = { fixedMg: 30_000, share: 0.01 }
/** Below this nothing was recovered to speak of: the scale's own last digits. */
const NOTHING_MG = 20_000
const MOSTLY_GONE = 0.5

/**
 * What the recovered weight says. The difference to the expected charge is judged against twice the combined
 * uncertainty; on the low side also against what a recovery leaves behind.
 * Nothing recovered, or no plate: no verdict on over or under, on to the leak test.
 * @param expected null where no plate is known
 * @param emptied the system went down to level and stayed there; without it too little says nothing
 */
export function compareRecovered(recovered: Recovered, expected: Recovered | null, emptied = true): Verdict {
  const numbers: Verdict['numbers'] = [
    {
      name: 'recovered',
      value: recovered.massMg / MG_PER_KG,
      unit: 'kg',
      sigma: recovered.sigmaMg / MG_PER_KG,
    },
  ]
  const source = 'weight against plate, lines and accessories; difference judged at two standard deviations'
  if (recovered.massMg < NOTHING_MG)
    return {
      outcome: 'open',
      code: 'nothing-recovered',
      reasons: [{ code: 'charge-gone' }, { code: 'leak-test-next' }],
      numbers,
      source,
    }
  if (!expected)
    return { outcome: 'open', code: 'no-expectation', reasons: [{ code: 'plate-unknown' }], numbers, source }

  const difference = recovered.massMg - expected.massMg
  const sigma = Math.hypot(recovered.sigmaMg, expected.sigmaMg)
  const rest = REST.fixedMg + REST.share * expected.massMg
  numbers.push(
    { name: 'expected', value: expected.massMg / MG_PER_KG, unit: 'kg', sigma: expected.sigmaMg / MG_PER_KG },
    { name: 'difference', value: difference / MG_PER_KG, unit: 'kg', sigma: sigma / MG_PER_KG },
    { name: 'variance', value: difference / expected.massMg, unit: 'share', sigma: sigma / expected.massMg },
    { name: 'left-behind', value: rest / MG_PER_KG, unit: 'kg' },
  )
  if (difference > 2 * sigma)
    return {
      outcome: 'caution',
      code: 'more-than-expected',
      reasons: [{ code: 'overcharged-unless-explained' }, { code: 'look-for-lines-and-driers' }],
      numbers,
      source,
    }
  if (difference >= -(2 * sigma + rest))
    return {
      outcome: 'good',
      code: 'as-expected',
      reasons: [{ code: 'not-a-leak' }, { code: 'may-go-back-if-clean' }],
      numbers,
      source,
    }
  if (!emptied)
    return {
      outcome: 'open',
      code: 'not-emptied',
      reasons: [{ code: 'rest-still-inside' }, { code: 'pull-again-or-hold' }],
      numbers,
      source,
    }
  if (recovered.massMg < MOSTLY_GONE * expected.massMg)
    return {
      outcome: 'bad',
      code: 'mostly-gone',
      reasons: [{ code: 'large-leak' }, { code: 'leak-test-next' }],
      numbers,
      source,
    }
  return {
    outcome: 'caution',
    code: 'less-than-expected',
    reasons: [{ code: 'undercharged' }, { code: 'find-the-leak' }],
    numbers,
    source,
  }
}
