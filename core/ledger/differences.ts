import type { Booking, Place } from './movement'

/**
 * The movements to append so that what is booked becomes what is wanted. Nothing is edited: what is too much is moved
 * back. Corrections and late entries need no special case.
 * @returns bookings with positive mass, none where both agree
 */
export function differences(booked: readonly Booking[], wanted: readonly Booking[]): Booking[] {
  const open = new Map<string, { amountMg: number; like: Booking; forward: boolean }>()
  const add = (booking: Booking, sign: 1 | -1) => {
    const from = placeKey(booking.from)
    const to = placeKey(booking.to)
    const forward = from < to
    const key = [booking.key, booking.refrigerant ?? '', ...(forward ? [from, to] : [to, from])].join('|')
    const signed = (forward ? 1 : -1) * sign * booking.massMg
    const known = open.get(key)
    // What is wanted describes the difference best; what was booked only where nothing is wanted any more.
    if (!known) open.set(key, { amountMg: signed, like: booking, forward })
    else
      open.set(key, {
        ...known,
        amountMg: known.amountMg + signed,
        ...(sign > 0 ? { like: booking, forward } : {}),
      })
  }
  for (const booking of booked) add(booking, -1)
  for (const booking of wanted) add(booking, 1)

  return [...open.values()]
    .filter(({ amountMg }) => amountMg !== 0)
    .map(({ amountMg, like, forward }) => ({
      ...like,
      massMg: Math.abs(amountMg),
      ...(amountMg > 0 === forward ? {} : { from: like.to, to: like.from }),
    }))
}

function placeKey(place: Place): string {
  return `${place.kind}:${place.id ?? ''}`
}
