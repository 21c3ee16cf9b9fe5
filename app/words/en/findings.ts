import type { PressureHoldCode } from '#core/leaks'
import type { OilCode } from '#core/oil'
import type { ReboundCode } from '#core/recovery'
import type { RoomCode } from '#core/site'
import type { VentCode } from '#core/verify'

export type FindingCode = PressureHoldCode | ReboundCode | OilCode | VentCode | RoomCode

/** What a verdict of one reason says, and that reason: holds, rebounds, oils, vents, rooms. */
export const FINDINGS: Record<FindingCode, [words: string, reason: string]> = {
  'pressure-held': [
    'Held, as far as this test can see',
    'The change is within what gauge and clamp can tell.',
  ],
  'pressure-lost': ['Pressure was lost', 'More than temperature and instruments explain: find the leak.'],
  'pressure-too-short': [
    'Too short to tell',
    'Nothing was lost that shows. A leak that lets all of it out in three days would not have shown yet: let it stand on.',
  ],
  'pressure-too-low': [
    'Too little pressure to tell',
    'Under half of what it may be tested with a joint may keep tight that leaks at work: raise it, then hold.',
  ],
  'pressure-gained': [
    'More pressure than before: these readings cannot be right',
    'The temperature of the gas was not that of the clamp, or the gauge moved: measure again.',
  ],
  'rebound-above-level': ['Go again', 'It stands above the level: refrigerant is still in there.'],
  'rebound-too-soon': [
    'Too soon to tell',
    'Under 5 minutes liquid under the oil has not boiled off yet: wait, then read again.',
  ],
  'rebound-within-worth': [
    'Within the level; another pull still brings something',
    'The level is kept. What returned is worth a scale’s reading.',
  ],
  'rebound-within': ['Within the level: done', 'What returned is less than a scale shows for certain.'],
  'oil-pag-in-high-voltage': [
    'Never PAG in a high-voltage compressor',
    'A trace of it destroys the insulation of the windings. Flush the hoses, or inject with a tool of its own.',
  ],
  'oil-poe-in-high-voltage': [
    'POE belongs in a high-voltage compressor',
    'The right kind of POE: look at the compressor’s plate.',
  ],
  'oil-not-in-high-voltage': ['Not for a high-voltage compressor', 'Only the POE that its maker names.'],
  'oil-pag-in-belt': ['PAG belongs in a belt compressor', 'In the grade that its maker names.'],
  'oil-poe-in-belt': ['POE in a belt compressor: only where its maker says so', 'Most want PAG.'],
  'oil-fits': ['The oil fits the refrigerant', 'The grade is the maker’s.'],
  'oil-maybe': ['It may work', 'Only where the maker of the compressor names it.'],
  'oil-does-not-mix': [
    'It does not belong with this refrigerant',
    'It would not come back to the compressor, or would attack it.',
  ],
  'vent-cold': ['The vents are cold enough', '15 K or more below the air that goes in.'],
  'vent-middling': [
    'Middling: humid air alone can do that',
    'Between 8 and 15 K below the air that goes in: compare with the maker’s table.',
  ],
  'vent-warm': [
    'The vents are warm',
    'Less than 8 K below the air that goes in: look at charge, fan and blend door.',
  ],
  'vent-near-ice': [
    'Near ice',
    'At 1 °C and below the evaporator can ice up: look at the sensor, the fan and the charge.',
  ],
  'below-alarm': [
    'Below the alarm level',
    'If all of it leaked and mixed with the whole room. Low down it is more.',
  ],
  'over-alarm': [
    'Above the alarm level',
    'If all of it leaked, the detector would alarm: ventilation, a smaller charge or a larger room.',
  ],
  'could-burn': ['All of it in this room could burn', 'The whole charge reaches the lower flammable limit.'],
  'toxic-over': ['Too much for this room: toxic', 'All of it would be above 320 ppm.'],
  'toxic-under': [
    'Below 320 ppm, and still toxic',
    'Ammonia is ruled by its toxicity: breathing protection and a second person.',
  ],
  'not-flammable': [
    'No figure for burning: it is not of a flammable class',
    'It still takes the air away: the concentration limit of the standard in force rules.',
  ],
  'no-lower-limit': [
    'No figure is known',
    'It is of a flammable class, but Keg has no lower flammable limit for it and does not guess one.',
  ],
}
