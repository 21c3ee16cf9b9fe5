import type { Stage } from '#core/tape'
import type { RefrigerantFacts } from '#core/refrigerants'
import type { Trade } from '#core/systems'

const STAGE_CAUTIONS: Partial<Record<Stage, string[]>> = {
  prepare: ['Power off and locked out before the unit is opened.'],
  recover: [
    'Gloves and goggles: liquid freezes skin and eyes.',
    'Ventilate: refrigerant collects low down and takes the air away.',
    'An overfilled cylinder bursts when it warms: never past the gross limit.',
    'No flame near refrigerant. Venting is illegal in most places.',
  ],
  repair: [
    'Valve cores out and caps off before heat. Nitrogen trickles through an open outlet while brazing.',
  ],
  'leak-test': [
    'Nitrogen only with a regulator, never above the test pressure on the plate.',
    'Never oxygen or shop air: with oil they explode.',
  ],
  charge: [
    'Warm a cylinder in water at 40 °C, never above 50, never with a flame.',
    'Never liquid into the compressor. Hands off the scale.',
  ],
  close: ['Close valves in order before any hose comes off: most spills happen in the last five minutes.'],
}

const VEHICLE = [
  'Engine off, wheels chocked, hands away from belt and fan.',
  'High-voltage vehicles: orange cables are for trained people.',
]

/** The usual cautions of a stage, with those of a flammable or toxic refrigerant. */
export function cautionsFor(
  stage: Stage,
  gas: RefrigerantFacts | undefined,
  trade: Trade = 'stationary',
): string[] {
  const usual = trade === 'vehicle' && stage === 'prepare' ? VEHICLE : (STAGE_CAUTIONS[stage] ?? [])
  if (!gas || !['recover', 'repair', 'charge', 'leak-test'].includes(stage)) return usual
  const { code, safetyClass, flammable } = gas
  const own = []
  if (flammable)
    own.push(
      `${code} is flammable (${safetyClass}): rated machine, no sparks, ventilate, check the room with a detector.`,
    )
  if (safetyClass.startsWith('B'))
    own.push(`${code} is toxic (${safetyClass}): breathing protection and a second person.`)
  return [...own, ...usual]
}
