import type { HandAnswer, Stop } from '#core/programme'
import { runningProgramme, type Saying } from '#core/tape'
import { SNIFFED } from '#core/watching'
import { announce, command, foldOpen, inShop, lock, openTape } from '#db'
import { NotBegun } from './begin.server'
import { tell } from './entries.server'

interface Who {
  shopId: string
  userId: string
}

/** Somebody has given the hand that a station waits for, or says that it is not so. @throws NotBegun */
export async function giveHand(
  { shopId, userId }: Who,
  { jobId, askId, say }: { jobId: string; askId: string; say: HandAnswer },
  now: Date,
): Promise<void> {
  await inShop(shopId, async (tx) => {
    await lock(tx, { jobId })
    const state = await foldOpen(tx, jobId, await openTape(tx, jobId))
    const running = runningProgramme(state)
    // Answered already, here or by somebody else: it is so.
    if (!running || running.asks?.askId !== askId) return
    const { programmeId, deviceId } = running
    const { ask } = running.asks
    const said: Saying[] = [{ kind: 'hand-given', body: { programmeId, askId, answer: say } }]
    if (ask === 'sniff-vents')
      said.push(
        say === 'done'
          ? { kind: 'step-done', body: { step: SNIFFED } }
          : { kind: 'leak-checked', body: { method: 'detector', found: true, text: 'cabin vents' } },
      )
    await tell(tx, said, { jobId, userId, programmeId, name: `hand-${askId}`, now })
    await command(tx, deviceId, { answer: { programmeId, ask, say } }, userId, now)
    await announce(tx, { kind: 'device', id: deviceId })
  })
}

/**
 * Tells a station to stop; it says itself when it has, and with which weight. One that nobody hears any more is left alone:
 * what it had open is then ended by hand. @throws NotBegun
 */
export async function stopProgramme(
  { shopId, userId }: Who,
  { jobId, leave }: { jobId: string; leave: boolean },
  now: Date,
): Promise<void> {
  await inShop(shopId, async (tx) => {
    await lock(tx, { jobId })
    const state = await foldOpen(tx, jobId, await openTape(tx, jobId))
    const running = runningProgramme(state)
    if (!running) throw new NotBegun('No station is at this job any more: reload the page.')
    const { programmeId, deviceId } = running
    const why: Stop = 'by-hand'
    await command(tx, deviceId, { stop: { programmeId, why } }, userId, now)
    await announce(tx, { kind: 'device', id: deviceId })
    if (!leave) return
    const said: Saying = { kind: 'programme-ended', body: { programmeId, how: 'left-alone' } }
    await tell(tx, [said], { jobId, userId, programmeId, name: 'left', now })
  })
}
