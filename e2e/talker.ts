import { randomUUID } from 'node:crypto'
import { addDevice, addKit, inShop, moveChannel } from '#db'
import type { AShop } from '../testing/a-shop'

/** A scale and gauges of a shop that speak through one device. */
export async function aTalker(shop: AShop) {
  const [deviceId, scaleId, gaugeId] = [randomUUID(), randomUUID(), randomUUID()]
  const before = new Date(Date.now() - 3_600_000)
  const token = await inShop(shop.shopId, async (tx) => {
    await addKit(
      tx,
      scaleId,
      { kind: 'scale', label: 'Quay scale', keepsAt: '', facts: { divisionMg: 5_000 }, state: 'in-use' },
      before,
    )
    await addKit(
      tx,
      gaugeId,
      { kind: 'gauge', label: 'Quay gauges', keepsAt: '', facts: {}, state: 'in-use' },
      before,
    )
    const token = await addDevice(
      tx,
      { deviceId, name: 'Talker', channels: ['weight', 'low'], standIn: false },
      shop.userId,
      before,
    )
    await moveChannel(tx, { deviceId, channel: 'weight', kitId: scaleId }, before)
    await moveChannel(tx, { deviceId, channel: 'low', kitId: gaugeId }, before)
    return token
  })
  let seq = 0
  const say = async (origin: string, samples: { channel?: string; value: number; agoMs?: number }[]) => {
    const response = await fetch(`${origin}/api/v1/samples`, {
      method: 'POST',
      headers: { authorization: `Bearer ${token}` },
      body: JSON.stringify({
        samples: samples.map(({ channel = 'weight', value, agoMs = 0 }) => ({
          channel,
          value,
          seq: seq++,
          at: Date.now() - agoMs,
        })),
      }),
    })
    return response.status
  }
  /** Goes on saying the same, twice a second, until it is stopped. */
  const keepSaying = (origin: string, value: () => number, channel = 'weight') => {
    const timer = setInterval(() => void say(origin, [{ channel, value: value() }]), 500)
    return () => clearInterval(timer)
  }
  return { deviceId, scaleId, gaugeId, token, say, keepSaying, said: () => seq }
}
