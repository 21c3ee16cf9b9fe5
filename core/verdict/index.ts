/**
 * A judgement as a value. Numbers are SI and carry their unit; words are added by the interface, so that neither
 * units nor languages freeze into a tape. Each judge names its codes as a type; only what is stored may be unknown.
 */
export interface Verdict<Code extends string = string, Why extends string = string> {
  /** good: go on; caution: look first; bad: stop; open: too soon to tell, or these readings cannot decide it. */
  outcome: 'good' | 'caution' | 'bad' | 'open'
  code: Code
  reasons: Reason<Why>[]
  numbers: Quantity[]
  /** By which rule it was judged. */
  rule: Rule
  /** Which instrument, or which other number, leaves the most doubt. */
  limitedBy?: LimitedBy
  /** Code of the caution that belongs beside it. */
  caution?: string
}

/** What limits a verdict. Without a label nobody has named the instrument: an ordinary one is reckoned with. */
export interface LimitedBy {
  what: 'scale' | 'expected' | 'gauge' | 'clamp' | 'vacuum-gauge'
  label: string
}

/** The rules that judges name. */
export type RuleCode =
  | 'against-expected'
  | 'back-to-its-owner'
  | 'wait-for-a-rise'
  | 'wait-by-time'
  | 'vapour-that-returned'
  | 'hold-below-limit'
  | 'hold-by-curve'
  | 'hold-on-manifold'
  | 'charge-tolerance'
  | 'kit-and-tare'
  | 'gas-in-closed-volume'
  | 'oil-practice'
  | 'superheat-and-subcooling'
  | 'patterns'
  | 'settled-first'
  | 'vent-thumb'
  | 'charge-over-room'

/** A rule with the figures that it had then. What a tape holds from before rules had codes is in words. */
export interface Rule {
  code: RuleCode | 'in-words'
  numbers?: Quantity[]
  words?: string
}

export const rule = (code: RuleCode, ...numbers: Quantity[]): Rule =>
  numbers.length > 0 ? { code, numbers } : { code }

export interface Reason<Code extends string = string> {
  code: Code
  numbers?: Quantity[]
}

/** The quantities that judges name. */
export type QuantityName =
  | 'recovered'
  | 'expected'
  | 'difference'
  | 'variance'
  | 'left-behind'
  | 'start'
  | 'end'
  | 'highest'
  | 'held-for'
  | 'at-least'
  | 'limit'
  | 'level'
  | 'superheat'
  | 'subcooling'
  | 'target-superheat'
  | 'charged'
  | 'target'
  | 'tolerance'
  | 'division'
  | 'room'
  | 'wanted'
  | 'down-to'
  | 'air'
  | 'leak-slope'
  | 'smallest-leak'
  | 'leak-flow'
  | 'leak-year'
  | 'smallest-year'
  | 'gone-in'
  | 'water'
  | 'water-time'
  | 'water-share'
  | 'known-after'
  | 'box-above'
  | 'td'
  | 'over-ambient'
  | 'air-drop'
  | 'low-gauge'
  | 'vent-drop'
  | 'approach'
  | 'air-rise-share'
  | 'drier-drop'
  | 'standing'
  | 'likely'

export interface Quantity {
  /** One of {@link QuantityName} where it is new; a stored one may be older. */
  name: string
  value: number
  /** Pa are absolute; Pa gauge are above the air around. */
  unit: 'kg' | 'Pa' | 'Pa gauge' | 'K' | 's' | 'mL' | 'share' | 'count' | 'Pa/s' | 'Pa m3/s'
  /** One standard deviation, in the same unit; left out where the number is exact. */
  sigma?: number
  /** Where it is a range, not a normal spread: `value` lies between. */
  least?: number
  most?: number
}

/** A quantity that lies in a range: its value in the middle of it, by ratio where both ends are above zero. */
export function quantityBetween(
  name: QuantityName,
  least: number,
  most: number,
  unit: Quantity['unit'],
): Quantity & { name: QuantityName } {
  return { name, value: least > 0 ? Math.sqrt(least * most) : (least + most) / 2, unit, least, most }
}

/** A quantity of a known name. */
export function quantity(
  name: QuantityName,
  value: number,
  unit: Quantity['unit'],
  sigma?: number,
): Quantity & { name: QuantityName } {
  return { name, value, unit, ...(sigma === undefined ? {} : { sigma }) }
}

/**
 * Version of the judging code, stored with each verdict: it is never silently judged again. 2: doubt of the scale;
 * 3: what a hold's curve says of leak and moisture; 4: all readings of a running system together; 5: stores
 * at box temperature only; 6: a hold near its limit is open, one on a manifold gauge needs depth; 7: ends by their level;
 * 8: what creeps is no leak, healthy states of a machine, rules with their figures.
 */
export const ENGINE_VERSION = 9
