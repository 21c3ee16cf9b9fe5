import sharp from 'sharp'

/** A photo that cannot be taken: what to do about it. */
export class PhotoError extends Error {
  override name = 'PhotoError'
}

const LONGEST_PX = 1600
const MOST_PIXELS = 60_000_000
const FORMATS = ['jpeg', 'png', 'webp']
// Two cores, and a server to keep answering.
sharp.concurrency(1)

/**
 * A picture as it is kept: at most 1600 pixels long, upright, JPEG, without anything but its pixels: no place, no camera.
 * What it is follows from its content, not from its name.
 * @throws PhotoError
 */
export async function smallerPhoto(bytes: Buffer): Promise<{ jpeg: Buffer; width: number; height: number }> {
  try {
    const picture = sharp(bytes, { limitInputPixels: MOST_PIXELS, failOn: 'error' })
    const { format } = await picture.metadata()
    if (!FORMATS.includes(format))
      throw new PhotoError(`This is ${format}: take the photo as JPEG, PNG or WebP.`)
    const { data, info } = await picture
      .rotate()
      .resize(LONGEST_PX, LONGEST_PX, { fit: 'inside', withoutEnlargement: true })
      .flatten({ background: '#fff' })
      .jpeg({ quality: 80, mozjpeg: true })
      .toBuffer({ resolveWithObject: true })
    return { jpeg: data, width: info.width, height: info.height }
  } catch (error) {
    if (error instanceof PhotoError) throw error
    throw new PhotoError(
      'This file is no picture that can be read: take the photo again, as JPEG, PNG or WebP.',
    )
  }
}
