import { expect, it } from 'vitest'
import { foldTape, openTransfer, type Use, type WeighMode } from '../tape'
import { wrote } from '../../testing/an-entry'
import { liveNetMg, standsNow } from '.'

const T0 = 1_000_000_000
function running(use: Use, mode: WeighMode, startKg: number, notedKg: number) {
  const started = wrote(
    'run-started',
    { runId: 'r', use, cylinderId: 'c', scale: 'S', scaleId: 'k', mode, weightMg: startKg * 1e6 },
    T0,
  )
  const noted = wrote(
    'weight-noted',
    { runId: 'r', weightMg: notedKg * 1e6, on: started.entryId },
    T0 + 60_000,
  )
  return openTransfer(foldTape([started, noted]))!
}
const netKg = (transfer: ReturnType<typeof running>, liveKg: number, afterS = 120) => {
  const net = liveNetMg(transfer, liveKg * 1e6, T0 + afterS * 1_000)
  return net === undefined ? undefined : net / 1e6
}

it('counts what came since the last note, into the cylinder and out of it', () => {
  expect(netKg(running('recover', 'gross', 12, 13), 13.4)).toBeCloseTo(1.4, 9)
  expect(netKg(running('charge', 'gross', 20, 19), 18.75)).toBeCloseTo(1.25, 9)
  // Zeroed with the cylinder on it, a scale counts down.
  expect(netKg(running('charge', 'net', 0, -1), -1.2)).toBeCloseTo(1.2, 9)
})
it('a zeroed scale that has drifted a little up before anything flows still counts down', () => {
  // Noted at +10 g; at -0.5 kg half a kilogram is out, at -1 kg one.
  const drifted = running('charge', 'net', 0, 0.01)
  expect(netKg(drifted, -0.5)).toBeCloseTo(0.5, 9)
  expect(netKg(drifted, -1)).toBeCloseTo(1, 9)
})
it('a long way since the last note counts all the same', () => {
  expect(netKg(running('recover', 'gross', 12, 12.1), 22, 600)).toBeCloseTo(10, 9)
})
it('what cannot be counts nothing: zeroed in mid-run, the cylinder lifted off, the wrong way', () => {
  expect(netKg(running('recover', 'gross', 12, 13), 0)).toBeUndefined()
  expect(netKg(running('recover', 'gross', 12, 13), 12.2)).toBeUndefined()
  expect(netKg(running('recover', 'net', 0, 1), 0)).toBeUndefined()
  expect(netKg(running('charge', 'gross', 20, 19), 20.5)).toBeUndefined()
})

it('a cylinder stands where its scale says, not where it was noted: what is left, and how full', () => {
  // Tare 10, limit 20: noted at 13, now 13.4.
  const cylinder = { tareMg: 10e6, contentsBeforeMg: 2e6, grossLimitMg: 20e6 }
  const recovery = running('recover', 'gross', 12, 13)
  expect(standsNow(recovery, cylinder)).toMatchObject({ scale: { grossMg: 13e6, leftMg: 7e6 }, share: 0.3 })
  const now = standsNow(recovery, cylinder, liveNetMg(recovery, 13.4e6, T0 + 120_000))
  expect(now).toMatchObject({ scale: { grossMg: 13.4e6, leftMg: 6.6e6 }, notedMg: 13e6 })
  expect(now.share).toBeCloseTo(0.34, 9)
  // A scale that was zeroed in mid-run says nothing of it.
  expect(standsNow(recovery, cylinder, liveNetMg(recovery, 0, T0 + 120_000)).share).toBe(0.3)
  // What is charged makes it lighter.
  const charge = running('charge', 'gross', 20, 19)
  expect(standsNow(charge, { ...cylinder, contentsBeforeMg: 10e6 }, 1.25e6).scale.grossMg).toBe(18.75e6)
})
