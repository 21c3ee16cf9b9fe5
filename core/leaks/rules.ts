import { refrigerant } from '../refrigerants'
import { KG_PER_LB } from '../units'
import { co2EquivalentT } from './leak-rate'

export type LeakUse = 'comfort' | 'commercial' | 'process'

/** United States, leak rate that obliges to repair, as a share a year. */
export const US_TRIGGER: Record<LeakUse, number> = { comfort: 0.1, commercial: 0.2, process: 0.3 }

/** Components that deplete ozone. */
const OZONE_DEPLETING = ['R12', 'R22', 'R115', 'R123']
/** Listed hydrofluoro-olefins that count by their mass in the European Union. */
const LISTED_OLEFINS = ['R-1234yf', 'R-1234ze(E)', 'R-1233zd(E)']

export interface UsLeakRule {
  trigger: number
  applies: boolean
  /** Charge from which it applies, kg; undefined where the gas is not covered. */
  fromKg?: number
  why: 'ozone-depleting' | 'hfc' | 'low-gwp'
}

/** Does a United States leak-repair rule apply (40 CFR 82.157: ozone-depleting from 50 lb; 84.106: GWP over 53 from 15 lb)? */
export function usLeakRule(code: string, chargeKg: number, use: LeakUse): UsLeakRule {
  const facts = refrigerant(code)
  const trigger = US_TRIGGER[use]
  const rule = (why: UsLeakRule['why'], fromLb: number): UsLeakRule => ({
    trigger,
    why,
    fromKg: fromLb * KG_PER_LB,
    applies: chargeKg >= fromLb * KG_PER_LB,
  })
  if (OZONE_DEPLETING.some((part) => part in facts.composition)) return rule('ozone-depleting', 50)
  if (facts.gwp > 53) return rule('hfc', 15)
  return { trigger, why: 'low-gwp', applies: false }
}

export interface EuCheckRule {
  /** Leak checks every so many months; undefined: none by this rule. */
  everyMonths?: 12 | 6 | 3
  by: 'co2' | 'mass' | 'none'
  co2T: number
}

/**
 * How often a leak check is due in the European Union (2024/573): every 12 months from 5 t CO2 equivalent (hermetic and
 * labelled from 10), 6 from 50, 3 from 500; listed olefins from 1, 10 and 100 kg; the interval doubles with leak
 * detection fitted.
 */
export function euCheckRule(
  code: string,
  chargeKg: number,
  { hermetic = false, detection = false } = {},
): EuCheckRule & { intervalMonths?: number } {
  const facts = refrigerant(code)
  const co2T = co2EquivalentT(chargeKg, facts.gwp)
  const olefin = LISTED_OLEFINS.includes(code)
  const fluorinated = olefin || facts.gwp > 3
  if (!fluorinated || OZONE_DEPLETING.some((part) => part in facts.composition)) return { by: 'none', co2T }
  const amount = olefin ? chargeKg : co2T
  const [first, second, third] = olefin ? [hermetic ? 2 : 1, 10, 100] : [hermetic ? 10 : 5, 50, 500]
  const everyMonths = amount >= third! ? 3 : amount >= second! ? 6 : amount >= first! ? 12 : undefined
  const by = olefin ? 'mass' : 'co2'
  if (everyMonths === undefined) return { by, co2T }
  return { by, co2T, everyMonths, intervalMonths: everyMonths * (detection ? 2 : 1) }
}
