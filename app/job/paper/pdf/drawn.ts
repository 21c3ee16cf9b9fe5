import type { Content } from 'pdfmake/interfaces'
import { type JobState, readingsOf } from '#core/tape'
import { dayAndTime, duration } from '~/base/ui/time'
import type { PaperJob, Show } from './paper-job'

export function curves(job: PaperJob, show: Show): Content[] {
  return [...weightCurves(job, show), ...pressureCurves(job, show), ...holdCurves(job, show)]
}

type Points = readonly { at: number; value: number }[]

/** Each transfer: what had moved by when, on whatever scale it stood. */
function weightCurves({ state, data }: PaperJob, show: Show): Content[] {
  const drawn = state.transfers.filter((each) => each.weighings.length > 2)
  if (drawn.length === 0) return []
  return [
    { text: 'Weights over time', style: 'heading' },
    ...drawn.map((transfer) => {
      const { use, startedAt } = transfer
      const points = movedOver(transfer)
      return figure(
        `${dayAndTime(startedAt, data.shop.timeZone)}: ${use === 'recover' ? 'recovered' : 'charged'} ${show('weight', Math.abs(transfer.amountMg))}, in ${lasted(points)}`,
        points,
      )
    }),
  ]
}

/** Out of the system or into it, mg: a change of scale moves nothing. */
function movedOver({ use, weighings, segments }: JobState['transfers'][number]): Points {
  const sign = use === 'recover' ? 1 : -1
  let beforeMg = 0
  let on = 0
  return weighings
    .filter((each) => !each.doubt)
    .map(({ at, weightMg, segment }) => {
      for (; on < segment; on++) beforeMg += sign * (segments[on]!.lastMg - segments[on]!.firstMg)
      return { at, value: beforeMg + sign * (weightMg - segments[segment]!.firstMg) }
    })
}

/** What the gauges read, low and high side; lowest and highest are said. */
function pressureCurves({ state }: PaperJob, show: Show): Content[] {
  const of = (point: 'low' | 'high'): Points => state.pressureNotes.filter((each) => each.point === point)
  const sides = (['low', 'high'] as const).filter((point) => of(point).length > 2)
  if (sides.length === 0) return []
  return [
    { text: 'Pressures over time', style: 'heading' },
    ...sides.map((side) => {
      const values = of(side).map((each) => each.value)
      return figure(
        `${side === 'low' ? 'Low' : 'High'} side: ${show('pressure', Math.min(...values))} to ${show('pressure', Math.max(...values))}, in ${lasted(of(side))}`,
        of(side),
      )
    }),
  ]
}

function holdCurves({ state, data }: PaperJob, show: Show): Content[] {
  const ended = state.holds.filter((each) => each.endedAt !== undefined && readingsOf(each).length > 1)
  if (ended.length === 0) return []
  return [
    { text: 'Vacuum holds', style: 'heading' },
    ...ended.map((hold) => {
      const readings = readingsOf(hold)
      return figure(
        `${dayAndTime(hold.startedAt, data.shop.timeZone)}: from ${show('vacuum', readings[0]!.pressurePa)} to ${show('vacuum', readings.at(-1)!.pressurePa)}, in ${duration(readings.at(-1)!.atS - readings[0]!.atS)}`,
        readings.map(({ atS, pressurePa }) => ({ at: atS, value: pressurePa })),
      )
    }),
  ]
}

const lasted = (points: Points) => duration((points.at(-1)!.at - points[0]!.at) / 1_000)

/** A line over time, from the lowest of zero and it to the highest, with what it shows written above. */
function figure(words: string, points: Points): Content {
  return { stack: [words, { svg: plot(points), width: 400 }], unbreakable: true, margin: [0, 0, 0, 6] }
}

function plot(points: Points): string {
  const [width, height] = [400, 90]
  const [from, to] = [points[0]!.at, points.at(-1)!.at]
  const values = points.map((each) => each.value)
  const least = Math.min(0, ...values)
  const span = Math.max(0, ...values) - least || 1
  const y = (value: number) => (height - ((value - least) / span) * (height - 6)).toFixed(1)
  const x = (at: number) => (((at - from) / (to - from || 1)) * width).toFixed(1)
  const drawn = points.map(({ at, value }) => `${x(at)},${y(value)}`).join(' ')
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height + 2}" viewBox="0 0 ${width} ${height + 2}"><line x1="0" y1="${y(0)}" x2="${width}" y2="${y(0)}" stroke="#888" stroke-width="0.7"/><polyline points="${drawn}" fill="none" stroke="#98470f" stroke-width="1.5"/></svg>`
}

export function signature({ state, data }: PaperJob): Content {
  const signed = state.signature
  if (!signed)
    return { text: 'Signature of the customer: ______________________________', margin: [0, 24, 0, 0] }
  const since = state.lines.filter(
    ({ time, entry }) => time > signed.at && entry.kind !== 'job-closed',
  ).length
  const polylines = signed.strokes
    .map((stroke) => {
      const points = Array.from(
        { length: stroke.length >> 1 },
        (_, i) => `${stroke[2 * i]},${stroke[2 * i + 1]}`,
      )
      return `<polyline points="${points.join(' ')}" fill="none" stroke="#000" stroke-width="6" stroke-linecap="round"/>`
    })
    .join('')
  return {
    stack: [
      {
        svg: `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1000 350" width="200" height="70">${polylines}</svg>`,
        width: 200,
      },
      {
        text: `${signed.name || 'The customer'}, ${dayAndTime(signed.at, data.shop.timeZone)}${since > 0 ? `; ${since} entries came after it` : ''}`,
      },
    ],
    unbreakable: true,
    margin: [0, 12, 0, 0],
  }
}
