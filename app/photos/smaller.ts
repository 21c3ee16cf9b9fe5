const LONGEST_PX = 1600
/** The server makes it smaller once more. */
const QUALITY = 0.9

/**
 * A picture as it is kept on a device and sent: at most 1600 pixels long, upright, JPEG, without where it was taken.
 * @returns in base 64; undefined: it is none that this browser can read
 */
export async function smallerJpeg(file: Blob): Promise<string | undefined> {
  let picture: ImageBitmap
  try {
    // Turned as the camera says: browsers do so by themselves, and older ones know no word for it.
    picture = await createImageBitmap(file)
  } catch {
    return undefined
  }
  const scale = Math.min(1, LONGEST_PX / Math.max(picture.width, picture.height))
  const canvas = document.createElement('canvas')
  canvas.width = Math.max(1, Math.round(picture.width * scale))
  canvas.height = Math.max(1, Math.round(picture.height * scale))
  const drawing = canvas.getContext('2d')
  if (!drawing) return undefined
  drawing.fillStyle = '#fff'
  drawing.fillRect(0, 0, canvas.width, canvas.height)
  drawing.drawImage(picture, 0, 0, canvas.width, canvas.height)
  picture.close()
  const [kind, jpeg] = canvas.toDataURL('image/jpeg', QUALITY).split(',')
  return kind === 'data:image/jpeg;base64' ? jpeg : undefined
}
