import sharp from 'sharp'
import { line } from '#db'

/** A photo that cannot be taken: what to do about it. */
export class PhotoError extends Error {
  override name = 'PhotoError'
}

const LONGEST_PX = 1600
const MOST_PIXELS = 50_000_000
const FORMATS = ['jpeg', 'png', 'webp']
// Two cores, and a server to keep answering: one thread for a picture, and nothing kept of it.
sharp.concurrency(1)
sharp.cache(false)
/** One picture at a time, however many come at once. */
const oneByOne = line({ atOnce: 1, most: 60, ms: 90_000 })

export interface SmallerPhoto {
  jpeg: Buffer
  width: number
  height: number
}

/**
 * A picture as it is kept: at most 1600 pixels long, upright, JPEG, without anything but its pixels: no place, no camera.
 * What it is follows from its content, not from its name.
 * @throws PhotoError
 * @throws BusyError when too many wait
 */
export const smallerPhoto = (file: Blob): Promise<SmallerPhoto> =>
  oneByOne(async () => smaller(Buffer.from(await file.arrayBuffer())))

async function smaller(bytes: Buffer): Promise<SmallerPhoto> {
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
    if (/pixel limit/.test((error as Error).message))
      throw new PhotoError('This picture has more than 50 megapixels: take it with fewer.')
    throw new PhotoError(
      'This file is no picture that can be read: take the photo again, as JPEG, PNG or WebP.',
    )
  }
}
