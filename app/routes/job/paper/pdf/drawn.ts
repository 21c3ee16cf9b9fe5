import type { Content } from 'pdfmake/interfaces'
import { type Hold, readingsOf } from '#core/tape'
import { dayAndTime } from '~/ui/time'
import type { PaperJob, Show } from './paper-job'

export function curves({ state, data }: PaperJob, show: Show): Content[] {
  const ended = state.holds.filter((each) => each.endedAt !== undefined && readingsOf(each).length > 1)
  if (ended.length === 0) return []
  return [
    { text: 'Vacuum holds', style: 'heading' },
    ...ended.map((hold): Content => {
      const readings = readingsOf(hold)
      return {
        stack: [
          `${dayAndTime(hold.startedAt, data.shop.timeZone)}: from ${show('vacuum', readings[0]!.pressurePa)} to ${show('vacuum', readings.at(-1)!.pressurePa)}`,
          { svg: curve(hold), width: 400 },
        ],
        unbreakable: true,
        margin: [0, 0, 0, 6],
      }
    }),
  ]
}

/** Pressure over time from zero to the highest, its ends written beside it. */
function curve(hold: Hold): string {
  const readings = readingsOf(hold)
  const [width, height] = [400, 90]
  const lastS = Math.max(1, readings.at(-1)!.atS)
  const most = Math.max(...readings.map((each) => each.pressurePa)) || 1
  const points = readings
    .map(
      ({ atS, pressurePa }) =>
        `${((atS / lastS) * width).toFixed(1)},${(height - (pressurePa / most) * (height - 6)).toFixed(1)}`,
    )
    .join(' ')
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height + 2}" viewBox="0 0 ${width} ${height + 2}"><line x1="0" y1="${height}" x2="${width}" y2="${height}" stroke="#888" stroke-width="0.7"/><polyline points="${points}" fill="none" stroke="#98470f" stroke-width="1.5"/></svg>`
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
