import { chooseCylinders, mayTake } from '#core/cylinders'
import { MG_PER_KG } from '#core/units'
import type { Answer } from '../outcome'
import { Refusal, sayIn, type Surroundings } from '../tool'

/** Which of the shop's cylinders a charge needs. */
export function putAway(
  refrigerant: string,
  chargeKg: number,
  { reading, cylinders, today, fillMarginPct }: Surroundings,
): Answer {
  const say = sayIn(reading)
  if (!cylinders)
    throw new Refusal({
      charge: 'This token may not look at the shop’s cylinders: make one that may, or leave the charge out.',
    })
  const fit = cylinders.flatMap((cylinder) => {
    const { refusals, roomMg } = mayTake(cylinder, {
      refrigerant,
      massMg: null,
      today,
      customerId: null,
      marginPct: fillMarginPct,
    })
    return refusals.length === 0 && roomMg !== undefined && roomMg > 0
      ? [{ cylinderId: cylinder.cylinderId, label: cylinder.label, balanceMg: cylinder.balanceMg, roomMg }]
      : []
  })
  const chosen = chooseCylinders(fit, chargeKg * MG_PER_KG)
  const togetherKg = fit.reduce((sum, c) => sum + c.roomMg, 0) / MG_PER_KG
  let leftKg = chargeKg
  const rows = (chosen ?? []).map((c) => {
    const takesKg = Math.min(leftKg, c.roomMg / MG_PER_KG)
    leftKg -= takesKg
    return { ...c, takesKg }
  })
  return {
    hero: chosen
      ? {
          label: `For ${say('weight', chargeKg)} of ${refrigerant}`,
          text: chosen.length === 1 ? chosen[0]!.label : `${chosen.length} cylinders`,
          beside:
            chosen.length === 1
              ? `room for ${say('weight', chosen[0]!.roomMg / MG_PER_KG)}`
              : chosen.map((c) => c.label).join(', '),
        }
      : {
          label: `For ${say('weight', chargeKg)} of ${refrigerant}`,
          text: 'not enough room',
          beside: `all ${fit.length} together take ${say('weight', togetherKg)}`,
        },
    judgement: chosen
      ? {
          outcome: 'good',
          words: `${say('weight', chargeKg)} fits: ${chosen.map((c) => c.label).join(', ')}`,
          reasons: [
            'The fewest of the shop’s cylinders, and of those the fullest that stay under their limits.',
          ],
        }
      : {
          outcome: 'bad',
          words: `${say('weight', chargeKg)} does not fit`,
          reasons: [
            `${fit.length} cylinders of the shop may take ${refrigerant}, with room for ${say('weight', togetherKg)} in all.`,
            'Bring another cylinder before starting.',
          ],
        },
    figures: [
      {
        name: 'room_in_shop',
        label: `Room in the shop for ${refrigerant}`,
        kind: 'weight',
        value: togetherKg,
      },
    ],
    data: {
      cylinders: rows.map((c) => ({
        cylinder_id: c.cylinderId,
        label: c.label,
        takes_kg: c.takesKg,
        room_kg: c.roomMg / MG_PER_KG,
      })),
    },
    working: [
      {
        what: 'Cylinders that may take it',
        put: 'same refrigerant or empty, in test date, strong enough, not reserved',
        gives: `${fit.length}, ${say('weight', togetherKg)} of room`,
      },
    ],
    ...(rows.length > 0
      ? {
          tables: [
            {
              title: 'Fill in this order',
              head: ['Cylinder', 'Holds now', 'Room', 'Takes'],
              rows: rows.map((c) => [
                c.label,
                say('weight', c.balanceMg / MG_PER_KG),
                say('weight', c.roomMg / MG_PER_KG),
                say('weight', c.takesKg),
              ]),
            },
          ],
        }
      : {}),
    onward: [
      {
        to: `/jobs/new?${new URLSearchParams({ refrigerant, ...(chosen?.[0] ? { cylinder: chosen[0].label } : {}) })}`,
        words: 'Start a job with it',
      },
    ],
  }
}
