import type { ShopTx } from '../connection'

export interface KeptPhoto {
  photoId: string
  jobId: string
  userId: string
  at: Date
  width: number
  height: number
  jpeg: Buffer
}

/** Sent again it stays the first. @returns false where the id belongs to another photo of the shop */
export async function keepPhoto(tx: ShopTx, photo: KeptPhoto): Promise<boolean> {
  const { photoId, jobId, userId, at, width, height, jpeg } = photo
  const made = await tx`
    insert into photo (shop_id, photo_id, job_id, user_id, at, width, height, jpeg)
    values (current_shop(), ${photoId}, ${jobId}, ${userId}, ${at}, ${width}, ${height}, ${jpeg})
    on conflict do nothing returning 1`
  if (made.length > 0) return true
  const [there] = await tx<{ same: boolean }[]>`
    select job_id = ${jobId} and user_id = ${userId} as same from photo
    where shop_id = current_shop() and photo_id = ${photoId}`
  return there?.same ?? false
}

/**
 * A photo's pixels.
 * @param hidden also where somebody has hidden it
 */
export async function photoOf(
  tx: ShopTx,
  jobId: string,
  photoId: string,
  { hidden = false } = {},
): Promise<Buffer | undefined> {
  const [row] = await tx<{ jpeg: Buffer }[]>`
    select jpeg from photo where shop_id = current_shop() and job_id = ${jobId} and photo_id = ${photoId}
      and (${hidden} or not exists (
        select 1 from entry where shop_id = current_shop() and job_id = ${jobId} and kind = 'photo-hidden'
          and body ->> 'photoId' = ${photoId}::text))`
  return row?.jpeg
}
