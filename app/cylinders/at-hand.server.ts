import { cylindersAtHand, type ShopTx } from '#db'
import { byRoom, type Tile, tileOf, TILES_SHOWN } from './tile'

/** The cylinders to tap: those used last first, then what fits; what may not be filled comes last. */
export async function atHand(
  tx: ShopTx,
  { userId, today, marginPct }: { userId: string; today: string; marginPct: number },
): Promise<Tile[]> {
  const tiles = (await cylindersAtHand(tx, userId, TILES_SHOWN)).map((row) => tileOf(row, today, marginPct))
  return tiles.sort(byRoom)
}
