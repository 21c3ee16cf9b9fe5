import { ArchiveError, bringBack, inShop, rebuildSummaries } from '#db'
import { readArchive } from './archive.server'

/** Reads an archive and brings it into an empty shop: all of it, or nothing. @returns a sentence where it does not fit */
export async function bringArchive({
  shopId,
  bytes,
  at,
}: {
  shopId: string
  bytes: ArrayBuffer
  at: Date
}): Promise<{ wrong?: string }> {
  const archive = readArchive(new TextDecoder().decode(bytes))
  if ('wrong' in archive) return { wrong: archive.wrong }
  try {
    await inShop(shopId, (tx) => bringBack(tx, archive, at), { takesLong: true })
  } catch (error) {
    if (error instanceof ArchiveError) return { wrong: error.message }
    throw error
  }
  // Projections follow from what is there now; a start that finds them missing makes them as well.
  await rebuildSummaries(shopId)
  return {}
}
