import { LineChart } from 'echarts/charts'
import { DataZoomComponent, GridComponent, MarkLineComponent, TooltipComponent } from 'echarts/components'
import { init, use as register } from 'echarts/core'
import { CanvasRenderer } from 'echarts/renderers'
import type { Band, Ink, Strip } from './strip'

register([LineChart, GridComponent, DataZoomComponent, MarkLineComponent, TooltipComponent, CanvasRenderer])

export interface StripStyle {
  colours: Record<Ink | 'rule' | 'limit' | 'sheet', string>
  /** A time in words; with seconds where the strip shows few minutes. */
  time: (at: number, seconds: boolean) => string
}

export interface Drawn {
  /** @param follow how much of the end to show, ms; null: all; undefined: as the reader has it */
  show: (strip: Strip, style: StripStyle, follow: number | null | undefined) => void
  remove: () => void
}

const LEFT = 50
const RIGHT = 14
const TOP = 20
const GAP = 28
const BOTTOM = 24
/** Fewer minutes than these in sight, and the axis says seconds. */
const SECONDS_BELOW_MS = 6 * 60_000

/** Draws strips into an element, and keeps them as wide as it is. @param scrolled the reader has zoomed or scrolled */
export function stripIn(element: HTMLElement, scrolled: () => void): Drawn {
  const chart = init(element, undefined, { renderer: 'canvas' })
  let shape = ''
  let own = false
  chart.on('datazoom', () => {
    if (!own) scrolled()
  })
  const resize = new ResizeObserver(() => {
    chart.resize()
    shape = ''
  })
  resize.observe(element)
  return {
    show(strip, style, follow) {
      const [first, last] = ends(strip)
      const names = strip.bands
        .map(({ name, lines }) => `${name} ${lines.map((line) => line.name).join('|')}`)
        .join('/')
      const fresh = names + style.colours.ink !== shape
      if (fresh) {
        const { fontFamily } = getComputedStyle(element)
        chart.setOption(frame(strip, style, element.clientHeight, fontFamily), { notMerge: true })
        shape = names + style.colours.ink
      }
      own = true
      chart.setOption({
        series: strip.bands.flatMap((band) => series(band, style, strip)),
        xAxis: strip.bands.map(() => ({ min: first, max: last })),
        ...(follow === undefined && !fresh
          ? {}
          : { dataZoom: [{ startValue: follow ? Math.max(first, last - follow) : first, endValue: last }] }),
      })
      own = false
    },
    remove() {
      resize.disconnect()
      chart.dispose()
    },
  }
}

/** The span of all that is drawn, with a little room at the end. */
function ends({ bands, pins }: Strip): [number, number] {
  let first = Infinity
  let last = -Infinity
  for (const { lines } of bands)
    for (const { points } of lines) {
      const [begin, end] = [points.find((each) => each !== null), points.findLast((each) => each !== null)]
      if (begin) first = Math.min(first, begin[0])
      if (end) last = Math.max(last, end[0])
    }
  if (first === Infinity) first = last = pins[0]?.at ?? 0
  return [first, Math.max(first + 10_000, last + (last - first) * 0.02)]
}

function frame({ bands }: Strip, { colours, time }: StripStyle, height: number, fontFamily: string) {
  const text = { color: colours.quiet, fontFamily, fontSize: 12 }
  const each = (height - TOP - BOTTOM - GAP * (bands.length - 1)) / bands.length
  const last = bands.length - 1
  // What is in sight is known only once it is drawn: the axis asks its own span.
  const label = (at: number, _: number, extent?: { min: number; max: number }) =>
    time(at, extent !== undefined && extent.max - extent.min < SECONDS_BELOW_MS)
  return {
    animation: false,
    textStyle: { fontFamily },
    grid: bands.map((_, i) => ({ left: LEFT, right: RIGHT, top: TOP + i * (each + GAP), height: each })),
    axisPointer: { link: [{ xAxisIndex: 'all' }] },
    tooltip: {
      trigger: 'axis',
      confine: true,
      axisPointer: { label: { formatter: ({ value }: { value: number }) => time(value, true) } },
    },
    dataZoom: [
      {
        type: 'inside',
        xAxisIndex: bands.map((_, i) => i),
        filterMode: 'none',
        minValueSpan: 5_000,
        preventDefaultMouseMove: false,
      },
    ],
    xAxis: bands.map((_, i) => ({
      type: 'time',
      gridIndex: i,
      axisLabel: { ...text, show: i === last, hideOverlap: true, formatter: label },
      axisTick: { show: i === last },
      axisLine: { lineStyle: { color: colours.quiet } },
      splitNumber: 4,
    })),
    yAxis: bands.map(({ unit, log }, i) => ({
      type: log ? 'log' : 'value',
      gridIndex: i,
      scale: true,
      name: unit,
      nameGap: 7,
      nameTextStyle: { ...text, align: 'left', padding: [0, 0, 0, 4 - LEFT] },
      axisLabel: { ...text, hideOverlap: true },
      splitNumber: 3,
      splitLine: { lineStyle: { color: colours.rule } },
    })),
  }
}

function series(band: Band, { colours }: StripStyle, strip: Strip) {
  const index = strip.bands.indexOf(band)
  const round = (value: unknown) => `${Number(Number(value).toPrecision(5))} ${band.unit}`
  const pins = {
    silent: true,
    symbol: 'none',
    label: { show: false },
    lineStyle: { color: colours.rule, type: 'solid', width: 1 },
    data: strip.pins.map(({ at }) => ({ xAxis: at })),
  }
  const marks = band.marks.map(({ name, value, limit }) => ({
    yAxis: value,
    label: {
      show: true,
      formatter: name,
      position: 'insideEndTop',
      color: limit ? colours.limit : colours.quiet,
      fontSize: 12,
    },
    lineStyle: {
      color: limit ? colours.limit : colours.quiet,
      type: limit ? 'solid' : 'dashed',
      width: limit ? 2 : 1,
    },
  }))
  return band.lines.map((line, i) => ({
    // Two pulls have the same name: the place is the id.
    id: `${band.name} ${i}`,
    type: 'line',
    name: line.name,
    xAxisIndex: index,
    yAxisIndex: index,
    data: line.points.map((point) => point ?? [null, null]),
    connectNulls: false,
    showSymbol: line.noted,
    symbol: line.noted ? 'circle' : 'none',
    symbolSize: 9,
    sampling: line.noted ? undefined : 'lttb',
    lineStyle: line.noted
      ? { width: 1, type: 'dotted', color: colours[line.ink] }
      : { width: 2, color: colours[line.ink] },
    itemStyle: { color: colours[line.ink], borderColor: colours.sheet, borderWidth: line.noted ? 2 : 0 },
    tooltip: { valueFormatter: round },
    ...(i === 0 ? { markLine: { ...pins, data: [...pins.data, ...marks] } } : {}),
  }))
}
