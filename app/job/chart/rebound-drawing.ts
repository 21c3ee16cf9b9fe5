import { LineChart } from 'echarts/charts'
import { GridComponent, MarkLineComponent } from 'echarts/components'
import { init, use as register } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import type { Pen } from '~/base/ui/drawing/drawn'
import { inkOf } from '~/base/ui/drawing/ink'

register([LineChart, GridComponent, MarkLineComponent, SVGRenderer])

/** What came back after a stop: minutes, and the pressure in the reader's unit. */
export interface ReboundInput {
  points: readonly (readonly [minutes: number, pressure: number])[]
  level: number
  levelName: string
  unit: string
  /** To the end of the wait, minutes. */
  until: number
  /** Noted by hand: every one is a point. */
  noted: boolean
}

export function reboundIn(element: HTMLElement): Pen<ReboundInput> {
  const chart = init(element, undefined, { renderer: 'svg' })
  const resize = new ResizeObserver(() => chart.resize())
  resize.observe(element)
  return {
    show({ points, level, levelName, unit, until, noted }) {
      const { colour, fontFamily, text } = inkOf(element)
      const values = [...points.map(([, value]) => value), level]
      const spread = Math.max(...values) - Math.min(...values) || 1
      chart.setOption({
        animation: false,
        textStyle: { fontFamily },
        grid: { left: 52, right: 12, top: 26, bottom: 26 },
        xAxis: {
          type: 'value',
          min: 0,
          max: until,
          axisLabel: { ...text, formatter: (value: number) => `${Math.round(value * 10) / 10} min` },
          splitLine: { show: false },
          splitNumber: 5,
        },
        yAxis: {
          type: 'value',
          min: Math.min(...values) - 0.15 * spread,
          max: Math.max(...values) + 0.25 * spread,
          name: unit,
          nameGap: 8,
          nameTextStyle: { ...text, align: 'left', padding: [0, 0, 0, -48] },
          axisLine: { onZero: false },
          axisLabel: {
            ...text,
            showMinLabel: false,
            showMaxLabel: false,
            formatter: (value: number) => String(Number(value.toPrecision(3))),
          },
          splitNumber: 3,
          splitLine: { lineStyle: { color: colour('rule') } },
        },
        series: [
          {
            type: 'line',
            data: points.map((point) => [...point]),
            showSymbol: noted,
            symbolSize: 9,
            lineStyle: { width: 3, color: colour('cold'), type: noted ? 'dotted' : 'solid' },
            itemStyle: { color: colour('cold') },
            markLine: {
              silent: true,
              symbol: 'none',
              label: { formatter: levelName, position: 'insideEndTop', color: colour('quiet'), fontSize: 12 },
              lineStyle: { color: colour('quiet'), type: 'dashed' },
              data: [{ yAxis: level }],
            },
          },
        ],
      })
    },
    remove() {
      resize.disconnect()
      chart.dispose()
    },
  }
}
