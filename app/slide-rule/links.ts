import type { Cylinder } from '#core/cylinders'
import type { SystemPlate } from '#core/systems'
import {
  checkReadings,
  type JobState,
  recoveredEpisode,
  type Stage,
  toGoMg,
  type Reference,
} from '#core/tape'
import { MG_PER_KG, ZERO_CELSIUS_K } from '#core/units'

const kg = (massMg: number) => String(massMg / MG_PER_KG)

const link = (tool: string, given: Record<string, string | null | undefined>): string => {
  const query = new URLSearchParams()
  for (const [name, value] of Object.entries(given)) if (value) query.set(name, value)
  return `/slide-rule/${tool}?${query}`
}

/** How a cylinder's limit comes about; undefined where there is nothing to work out. */
export function fillLink(
  cylinder: Pick<Cylinder, 'refrigerant' | 'waterCapacityMg' | 'tareMg' | 'balanceMg' | 'fillingRatio'>,
): string | undefined {
  const { refrigerant, waterCapacityMg, tareMg, balanceMg, fillingRatio } = cylinder
  if (!refrigerant || waterCapacityMg === null) return undefined
  return link('fill', {
    refrigerant,
    wc_kg: kg(waterCapacityMg),
    tare_kg: kg(tareMg),
    gross_kg: kg(tareMg + Math.max(0, balanceMg)),
    ratio: fillingRatio === null ? null : String(fillingRatio),
  })
}

/** A way from a stage of a job to a tool, filled in with what the job knows. */
export interface ToolLink {
  to: string
  words: string
}

interface JobFacts {
  state: JobState
  reference: Reference
  plate: SystemPlate
  metering: string
}

/** The tools that a stage of a job leads to. */
export function stageLinks(stage: Stage, facts: JobFacts): ToolLink[] {
  return (LINKS[stage]?.(facts) ?? []).flatMap(([words, to]) => (to ? [{ words, to }] : []))
}

type Found = [words: string, to: string | undefined][]

const LINKS: Partial<Record<Stage, (facts: JobFacts) => Found>> = {
  prepare: ({ state, plate }) => [
    [
      'How what should be in there comes about',
      expectedChargeLink({ ...plate, refrigerant: state.refrigerant ?? plate.refrigerant }),
    ],
    ['What is in it', given('identify', state, {})],
  ],
  recover: ({ state, plate, reference }) => [
    ['Time left', timeLeftLink(state, reference)],
    ['How far down', given('end-level', state, { charge_kg: massOf(plate), use: tradeOf(plate) })],
    ['Rebound', given('rebound', state, {})],
  ],
  repair: ({ state }) => [['Which drier holds what', given('expected-charge', state, {})]],
  'leak-test': ({ state, plate }) => [
    ['Pressure hold', link('pressure-hold', {})],
    ['Leak rate', given('leak-rate', state, { full_kg: massOf(plate) })],
  ],
  evacuate: () => [
    ['How long it takes', link('evacuation-time', {})],
    ['Hoses', link('hoses', {})],
  ],
  oil: ({ state }) => [
    [
      'Oil balance',
      state.oil.noted
        ? given('oil', state, {
            out_mL: String(state.oil.outMl),
            already_mL: state.oil.inMl > 0 ? String(state.oil.inMl) : null,
          })
        : link('oil', {}),
    ],
  ],
  charge: ({ state, plate }) => {
    const left = toGoMg(state)
    return [
      [
        'Stop weight, and what the vacuum draws',
        given('charge', state, {
          target_kg: left !== undefined && left > 0 ? kg(left) : null,
          trade: plate.trade,
        }),
      ],
    ]
  },
  verify: ({ state, metering }) => {
    const { lowPa, highPa, suctionK, liquidK, ventK, ambientK } = checkReadings(state)
    const pa = (value: number | undefined) => (value === undefined ? null : String(value))
    const celsius = (value: number | undefined) =>
      value === undefined ? null : String(Math.round((value - ZERO_CELSIUS_K) * 100) / 100)
    return [
      [
        'Superheat and subcooling',
        given('superheat', state, {
          low_Pa_abs: pa(lowPa),
          high_Pa_abs: pa(highPa),
          suction_C: celsius(suctionK),
          liquid_C: celsius(liquidK),
          vent_C: celsius(ventK),
          outdoor_C: celsius(ambientK),
          metering,
        }),
      ],
    ]
  },
  close: () => [['Weights in every unit', link('weights', {})]],
}

const given = (tool: string, { refrigerant }: JobState, more: Record<string, string | null | undefined>) =>
  link(tool, { refrigerant, ...more })

const massOf = ({ panelTotalMg, plateMg }: SystemPlate) => {
  const massMg = panelTotalMg ?? plateMg
  return massMg === null ? null : kg(massMg)
}

/** A small sealed one is not told by its plate alone: that is for a person to say. */
const tradeOf = ({ trade }: SystemPlate) => (trade === 'vehicle' ? 'vehicle' : null)

const NOTES_SHOWN = 6

/** The last weights of the last recovery, net of its first, minutes after it; undefined before there are three. */
function timeLeftLink(state: JobState, { books, plate }: Reference): string | undefined {
  const transfer = state.transfers.findLast((each) => each.use === 'recover')
  const weighings = transfer?.weighings.filter((each) => each.segment === 0 && !each.doubt) ?? []
  if (weighings.length < 3) return undefined
  const first = weighings[0]!
  const expectedMg = (books ?? plate)?.massMg
  const earlierMg = (recoveredEpisode(state)?.recoveredMg ?? 0) - transfer!.amountMg
  return link('time-left', {
    ...Object.fromEntries(
      weighings.slice(-NOTES_SHOWN).flatMap(({ at, weightMg }, i) => [
        [`note_${i + 1}_weight_kg`, kg(Math.max(0, weightMg - first.weightMg))],
        [`note_${i + 1}_at_min`, String(Math.round((at - first.at) / 600) / 100)],
      ]),
    ),
    expected_kg: expectedMg === undefined ? null : kg(Math.max(0, expectedMg - earlierMg)),
  })
}

const LINES_SHOWN = 4
const PARTS_SHOWN = 3

/** How what should be in a system comes about; undefined where too little is known, or more than the tool takes. */
export function expectedChargeLink(plate: SystemPlate): string | undefined {
  const { refrigerant, plateMg, panelTotalMg, lines, accessories } = plate
  if (!refrigerant || (plateMg === null && panelTotalMg === null)) return undefined
  if (lines.length > LINES_SHOWN || accessories.length > PARTS_SHOWN) return undefined
  return link('expected-charge', {
    refrigerant,
    plate_kg: plateMg === null ? null : kg(plateMg),
    panel_kg: panelTotalMg === null ? null : kg(panelTotalMg),
    ...Object.fromEntries(
      lines.flatMap(({ kind, od, lengthM, coveredM, guessed }, i) => [
        [`line_${i + 1}_kind`, kind],
        [`line_${i + 1}_od`, od],
        [`line_${i + 1}_length_m`, String(lengthM)],
        [`line_${i + 1}_covered_m`, String(coveredM)],
        [`line_${i + 1}_known`, guessed ? 'guessed' : 'measured'],
      ]),
    ),
    ...Object.fromEntries(accessories.map(({ massMg }, i) => [`part_${i + 1}_mass_kg`, kg(massMg)])),
  })
}
