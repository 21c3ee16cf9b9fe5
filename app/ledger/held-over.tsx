import { useMemo } from 'react'
import { heldOver } from '#core/ledger'
import { MG_PER_KG, KG_PER_LB } from '#core/units'
import type { MovementRow } from '#db'
import { Drawn } from '~/base/ui/drawing/drawn'
import { useReadersUnits, useShow } from '~/base/ui/reader'
import { day } from '~/base/ui/time'
import type { HeldInput } from './held-drawing'

const load = () => import('./held-drawing').then(({ heldIn }) => heldIn)

interface HeldOverProps {
  /** Of a cylinder or a system, by its id. */
  of: string
  name: string
  movements: readonly MovementRow[]
  /** By the books, now. */
  balanceMg: number
  loadedAt: number
  timeZone: string
  full?: { massMg: number; name: string }
}

/** What a cylinder or system held over the time of its movements: drawn, and as figures. */
export function HeldOver({ of, name, movements, balanceMg, loadedAt, timeZone, full }: HeldOverProps) {
  const show = useShow()
  const pounds = useReadersUnits().units.weight !== 'kg'
  const held = useMemo(
    () =>
      heldOver(
        movements.map((each) => ({
          at: new Date(each.at).getTime(),
          changeMg: [each.toCylinder, each.toSystem].includes(of) ? each.massMg : -each.massMg,
        })),
        balanceMg,
      ),
    [movements, balanceMg, of],
  )
  const fullMg = full?.massMg
  const fullName = full?.name ?? ''
  const input = useMemo((): HeldInput => {
    const inUnit = (massMg: number) =>
      Math.round((massMg / MG_PER_KG / (pounds ? KG_PER_LB : 1)) * 1_000) / 1_000
    const points = held.map(({ at, heldMg }): [number, number] => [at, inUnit(heldMg)])
    return {
      // It holds the same until today.
      points: [...points, [loadedAt, inUnit(balanceMg)]],
      moved: held.map(({ at, inMg, outMg }) => [at, inUnit(inMg), inUnit(outMg)]),
      unit: pounds ? 'lb' : 'kg',
      ...(fullMg !== undefined && { full: { value: inUnit(fullMg), name: fullName } }),
    }
  }, [held, pounds, loadedAt, balanceMg, fullMg, fullName])
  if (held.length < 2) return <p className="mb-0 quiet">One change so far: nothing to compare it with.</p>
  return (
    <>
      <Drawn
        className="held-chart"
        label={`What ${name} held over time; the figures are below`}
        input={input}
        load={load}
      />
      <details>
        <summary>Figures</summary>
        <table className="table table-sm mb-0">
          <thead>
            <tr>
              <th>Day</th>
              <th className="num">In</th>
              <th className="num">Out</th>
              <th className="num">Then in it</th>
            </tr>
          </thead>
          <tbody>
            {held.toReversed().map(({ at, inMg, outMg, heldMg }) => (
              <tr key={at}>
                <td>{day(at, timeZone)}</td>
                <td className="num digits">{inMg > 0 && show('weight', inMg)}</td>
                <td className="num digits">{outMg > 0 && show('weight', outMg)}</td>
                <td className="num digits">{show('weight', heldMg)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </details>
    </>
  )
}
