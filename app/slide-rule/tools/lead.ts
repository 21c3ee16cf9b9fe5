import { LARGEST_DROP, LEAD_OHM_PER_KM, voltDrop } from '#core/site'
import { choice, measure, usually } from '../fields'
import { LOCAL_RULES, sayIn, tool } from '../tool'

const SIZES = Object.fromEntries(
  Object.keys(LEAD_OHM_PER_KM).map((size) => [size, size.replace('mm2', 'mm²')]),
)

export default tool({
  name: 'lead',
  title: 'Extension lead',
  question: 'Is this lead heavy enough for its length?',
  inputs: {
    size: choice('Conductor', SIZES),
    length: measure('length', 'Length of the lead', { least: 0.5, most: 500 }),
    current: usually('current', 'Current of the machine', 8, {
      least: 0.1,
      most: 100,
      help: 'From its plate; starting takes several times as much.',
    }),
    supply: usually('voltage', 'Supply', 230, { least: 12, most: 500, help: '230 or 115 V.' }),
  },
  example: { size: '1.5 mm2', length: '50 m', current: '8 A', supply: '230 V' },
  work({ size, length, current, supply }, { reading }) {
    const say = sayIn(reading)
    const found = voltDrop(size, length, current, supply)
    const percent = (share: number) => `${(share * 100).toFixed(1)} %`
    const over = found.share > LARGEST_DROP
    return {
      hero: {
        label: 'Lost in the lead',
        text: percent(found.share),
        beside: `${found.dropV.toFixed(1)} V, ${(supply - found.dropV).toFixed(0)} V are left`,
      },
      judgement: over
        ? {
            outcome: 'caution',
            words: 'Too long or too thin',
            reasons: [
              'More than 5 %: this is what burns recovery machines and vacuum pumps out.',
              `This size reaches ${say('length', found.longestM)}.`,
            ],
          }
        : {
            outcome: 'good',
            words: 'Heavy enough',
            reasons: [`Up to ${say('length', found.longestM)} at this current.`],
          },
      figures: [
        { name: 'drop', label: 'Voltage lost', kind: 'voltage', value: found.dropV },
        { name: 'share', label: 'Share of the supply', kind: 'share', value: found.share },
        { name: 'longest', label: 'Longest lead of this size', kind: 'length', value: found.longestM },
      ],
      working: [
        {
          what: 'Voltage lost',
          put: `2 · L · I · r = 2 × ${length.toFixed(1)} m × ${current} A × ${LEAD_OHM_PER_KM[size]} Ω/km`,
          gives: `${found.dropV.toFixed(2)} V`,
        },
        { what: 'Share', put: `${found.dropV.toFixed(2)} V / ${supply} V`, gives: percent(found.share) },
      ],
      uncertainty: [
        'Cold copper; a warm lead loses up to a tenth more. Plugs and a coiled drum come on top.',
      ],
      source: ['Ohm’s law, both conductors; resistance of copper conductors by size.'],
      caution: ['Unroll a drum altogether. Three wires, earthed.', LOCAL_RULES],
      unknown: ['The starting current of the motor, and how weak the socket is already.'],
      tables: [
        {
          title: 'Other sizes',
          head: ['Conductor', 'Lost', 'Longest'],
          rows: Object.keys(LEAD_OHM_PER_KM).map((each) => {
            const other = voltDrop(each, length, current, supply)
            return [each.replace('mm2', 'mm²'), percent(other.share), say('length', other.longestM)]
          }),
        },
      ],
    }
  },
})
