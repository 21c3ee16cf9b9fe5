export interface Room {
  cylinderId: string
  roomMg: number
}

/**
 * Which cylinders a charge needs: the fewest that can hold it, and among those the ones with the least room to spare,
 * so that the fullest are filled up first. Exact for one and two cylinders; for more the largest are taken and then
 * exchanged, one by one, for smaller ones that still do.
 * @returns in the order in which to fill them, largest room first; undefined when all together are too small
 */
export function chooseCylinders<T extends Room>(cylinders: readonly T[], massMg: number): T[] | undefined {
  const byRoom = cylinders.filter((c) => c.roomMg > 0).sort((a, b) => a.roomMg - b.roomMg)
  let count = 0
  for (let left = massMg; left > 0; count++) {
    const next = byRoom[byRoom.length - 1 - count]
    if (!next) return undefined
    left -= next.roomMg
  }
  if (count === 1) return [byRoom.find((c) => c.roomMg >= massMg)!]
  if (count === 2) return pair(byRoom, massMg)
  return exchanged(byRoom, byRoom.slice(byRoom.length - count), massMg)
}

/** Two pointers over the sorted rooms: the smallest sum that is enough. */
function pair<T extends Room>(byRoom: readonly T[], massMg: number): T[] {
  let [low, high] = [0, byRoom.length - 1]
  let best: [T, T] | undefined
  const sum = (two: [T, T]) => two[0].roomMg + two[1].roomMg
  while (low < high) {
    const two: [T, T] = [byRoom[high]!, byRoom[low]!]
    if (sum(two) >= massMg) {
      if (!best || sum(two) < sum(best)) best = two
      high--
    } else low++
  }
  return best!
}

function exchanged<T extends Room>(byRoom: readonly T[], largest: readonly T[], massMg: number): T[] {
  const chosen = [...largest].reverse()
  let spareMg = chosen.reduce((sum, c) => sum + c.roomMg, 0) - massMg
  for (let i = 0; i < chosen.length; i++) {
    const smaller = byRoom.find((c) => c.roomMg >= chosen[i]!.roomMg - spareMg && !chosen.includes(c))
    if (!smaller || smaller.roomMg >= chosen[i]!.roomMg) continue
    spareMg -= chosen[i]!.roomMg - smaller.roomMg
    chosen[i] = smaller
  }
  return chosen.sort((a, b) => b.roomMg - a.roomMg)
}
