import { expect, it } from 'vitest'
import { foldTape, openTransfer, type Use, type WeighMode } from '#core/tape'
import { wrote } from '../../../../testing/an-entry'
import { liveNetMg } from './live-net'

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
