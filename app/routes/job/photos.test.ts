import { randomUUID } from 'node:crypto'
import sharp from 'sharp'
import type { RouterContextProvider } from 'react-router'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { changePerson, closeDatabase, inShop, openSession } from '#db'
import { signedIn } from '~/base/session/signed-in.server'
import { answered, letIn, through } from '../../../testing/a-request'
import { aJob, anEntry, type AShop, aShop, note } from '../../../testing/a-shop'
import { action } from './photos-resource'
import { loader } from './photo-resource'

let shop: AShop
let technician: RouterContextProvider
let trainee: RouterContextProvider
beforeAll(async () => {
  shop = await aShop()
  technician = await letIn(shop, 'technician')
  trainee = await letIn(shop, 'trainee')
})
afterAll(closeDatabase)

const picture = (width = 3000, height = 2000) =>
  sharp({ create: { width, height, channels: 3, background: '#b46a3c' } })
const send = (
  jobId: string,
  bytes: Buffer,
  { photoId = randomUUID() as string, who = technician, type = 'image/jpeg', userId = '' } = {},
) => {
  const form = new FormData()
  form.set('photoId', photoId)
  if (userId) form.set('userId', userId)
  form.set('photo', new File([new Uint8Array(bytes)], 'x.jpg', { type }))
  const request = new Request('http://keg.test/', { method: 'POST', body: form })
  return answered(action({ request, context: who, params: { jobId } } as never))
}
const get = async (jobId: string, photoId: string, who = technician, headers: HeadersInit = {}) => {
  const request = new Request('http://keg.test/', { headers })
  const answer: unknown = await loader({ request, context: who, params: { jobId, photoId } } as never).catch(
    (thrown: unknown) => thrown,
  )
  return answer as Response
}

describe('a photo of a job', () => {
  it('is kept smaller and upright, without where it was taken', async () => {
    const job = await aJob(shop)
    const taken = await picture()
      .withExif({
        IFD0: { Make: 'harbour phone' },
        IFD3: { GPSLatitude: '54/1 30/1 0/1', GPSLatitudeRef: 'N' },
      })
      .withMetadata({ orientation: 6 })
      .jpeg()
      .toBuffer()
    const photoId = randomUUID()
    const { status, body } = await send(job, taken, { photoId })
    expect([status, body]).toEqual([200, { photoId, width: 1067, height: 1600 }])
    const answer = await get(job, photoId)
    expect(answer.headers.get('content-type')).toBe('image/jpeg')
    const kept = await sharp(Buffer.from(await answer.arrayBuffer())).metadata()
    expect([kept.format, kept.width, kept.height]).toEqual(['jpeg', 1067, 1600])
    expect(kept.exif).toBeUndefined()
    expect(kept.orientation).toBeUndefined()
  })
  it('sent twice is one photo, and its first content stays', async () => {
    const job = await aJob(shop)
    const photoId = randomUUID()
    expect((await send(job, await picture(20, 10).jpeg().toBuffer(), { photoId })).status).toBe(200)
    expect((await send(job, await picture(40, 40).jpeg().toBuffer(), { photoId })).status).toBe(200)
    const kept = await sharp(Buffer.from(await (await get(job, photoId)).arrayBuffer())).metadata()
    expect([kept.width, kept.height]).toEqual([20, 10])
    expect((await send(await aJob(shop), await picture(20, 10).png().toBuffer(), { photoId })).status).toBe(
      422,
    )
  })
  it.each([
    ['text that calls itself a picture', Buffer.from('<script>alert(1)</script>')],
    ['a drawing with markup', Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" width="5" height="5"/>')],
    ['half a picture', Buffer.from([0xff, 0xd8, 0xff, 0xe0, 0, 16])],
    ['nothing', Buffer.alloc(0)],
  ])('%s is refused with a sentence', async (_, bytes) => {
    const { status, body } = await send(await aJob(shop), bytes)
    expect(status).toBe(422)
    expect(String(body)).toMatch(/JPEG, PNG or WebP/)
  })
  it('is for the shop’s own people, and sent by who may write', async () => {
    const job = await aJob(shop)
    const photoId = randomUUID()
    const bytes = await picture(20, 10).webp().toBuffer()
    expect((await send(job, bytes, { photoId, who: trainee })).status).toBe(403)
    expect((await send(job, bytes, { photoId })).status).toBe(200)
    expect((await get(job, photoId, trainee)).status).toBe(200)
    const stranger = await letIn(await aShop(), 'manager')
    expect((await get(job, photoId, stranger)).status).toBe(404)
    expect((await send(job, bytes, { who: stranger })).status).toBe(404)
  })
  it('of whoever was here before waits for them', async () => {
    const job = await aJob(shop)
    const bytes = await picture(20, 10).jpeg().toBuffer()
    const photoId = randomUUID()
    expect((await send(job, bytes, { photoId, userId: randomUUID() })).status).toBe(409)
    expect((await get(job, photoId)).status).toBe(404)
    const { userId } = signedIn(technician).person
    expect((await send(job, bytes, { photoId, userId })).status).toBe(200)
  })
  it('that comes slowly holds up nobody else', async () => {
    const job = await aJob(shop)
    const headers = { 'content-type': 'multipart/form-data; boundary=slow' }
    const ends: (() => void)[] = []
    // A phone at the edge of its signal: it has begun, and sends on some time.
    const slow = () => {
      const body = new ReadableStream({ start: (to) => void ends.push(() => to.close()) })
      const request = new Request('http://keg.test/', {
        method: 'POST',
        headers,
        body,
        duplex: 'half',
      } as RequestInit)
      return answered(action({ request, context: technician, params: { jobId: job } } as never))
    }
    const four = [slow(), slow(), slow(), slow()]
    const bytes = await picture(20, 10).jpeg().toBuffer()
    const colleague = await letIn(shop, 'technician')
    expect((await send(job, bytes, { who: colleague })).status).toBe(200)
    // Its own third one waits for its turn, and gets it.
    const own = send(job, bytes)
    ends.forEach((end) => end())
    expect((await Promise.all(four)).map(({ status }) => status)).toEqual([400, 400, 400, 400])
    expect((await own).status).toBe(200)
  })
  it('that was taken by somebody who was a technician then may still come: its note decides', async () => {
    const job = await aJob(shop)
    const someone = await letIn(shop, 'technician')
    const { userId } = signedIn(someone).person
    await inShop(shop.shopId, (tx) => changePerson(tx, userId, { role: 'trainee' }))
    const demoted = await through(await openSession(shop.shopId, userId), '/')
    const bytes = await picture(20, 10).jpeg().toBuffer()
    expect((await send(job, bytes, { who: demoted, userId })).status).toBe(200)
  })
  it('that is hidden is gone from its address for everybody but a manager, also where it was seen before', async () => {
    const job = await aJob(shop)
    const photoId = randomUUID()
    await send(job, await picture(40, 30).jpeg().toBuffer(), { photoId })
    await note(shop, job, anEntry('photo-noted', { photoId, of: 'before', text: 'a face' }))
    const seen = await get(job, photoId, trainee)
    expect(seen.status).toBe(200)
    // A browser that has it asks each time.
    expect(seen.headers.get('cache-control')).toBe('private, no-cache')
    const again = { 'if-none-match': seen.headers.get('etag')! }
    expect((await get(job, photoId, trainee, again)).status).toBe(304)
    await note(shop, job, anEntry('photo-hidden', { photoId, reason: 'a face is on it' }))
    for (const who of [technician, trainee]) {
      const gone = (await get(job, photoId, who, again)) as unknown as { init: { status: number } }
      expect(gone.init?.status ?? (gone as unknown as Response).status).toBe(404)
    }
    const manager = await letIn(shop, 'manager')
    expect((await get(job, photoId, manager)).status).toBe(200)
  })
  it('is never removed or changed', async () => {
    const job = await aJob(shop)
    const photoId = randomUUID()
    await send(job, await picture(20, 10).jpeg().toBuffer(), { photoId })
    await expect(
      inShop(shop.shopId, (tx) => tx`delete from photo where photo_id = ${photoId}`),
    ).rejects.toThrow()
  })
})
