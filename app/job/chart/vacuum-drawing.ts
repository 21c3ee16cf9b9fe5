import { LineChart } from 'echarts/charts'
import { GridComponent, LegendComponent, MarkLineComponent } from 'echarts/components'
import { init, use as register } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import type { Pen } from '~/base/ui/drawing/drawn'
import { inkOf } from '~/base/ui/drawing/ink'

register([LineChart, GridComponent, LegendComponent, MarkLineComponent, SVGRenderer])

type Points = readonly (readonly [minutes: number, pressure: number])[]

/** A vacuum over time, in the reader's unit: what was read, what is expected or fitted, and what it is held against. */
export interface VacuumInput {
  read: Points
  /** Few and by hand: every one is a point. */
  noted: boolean
  expected: readonly { name: string; points: Points }[]
  marks: readonly { name: string; value: number }[]
  unit: string
  until: number
  /** From atmosphere down: only powers of ten show all of it. */
  log: boolean
}

export function vacuumIn(element: HTMLElement): Pen<VacuumInput> {
  const chart = init(element, undefined, { renderer: 'svg' })
  const resize = new ResizeObserver(() => chart.resize())
  resize.observe(element)
  return {
    show({ read, noted, expected, marks, unit, until, log }) {
      const { colour, fontFamily, text } = inkOf(element)
      chart.setOption(
        {
          animation: false,
          textStyle: { fontFamily },
          grid: { left: 62, right: 16, top: 46, bottom: 26 },
          legend: { top: 0, right: 0, textStyle: text, itemHeight: 8 },
          xAxis: {
            type: 'value',
            min: 0,
            max: until,
            axisLabel: { ...text, formatter: (value: number) => `${Math.round(value * 10) / 10} min` },
            splitLine: { show: false },
            splitNumber: 5,
          },
          yAxis: {
            type: log ? 'log' : 'value',
            min: log ? undefined : 0,
            name: unit,
            nameGap: 8,
            nameTextStyle: { ...text, align: 'left', padding: [0, 0, 0, -56] },
            axisLine: { onZero: false },
            axisLabel: { ...text, formatter: (value: number) => String(Number(value.toPrecision(2))) },
            splitLine: { lineStyle: { color: colour('rule') } },
          },
          series: [
            {
              type: 'line',
              name: 'read',
              data: read.map((point) => [...point]),
              showSymbol: noted,
              symbolSize: 9,
              lineStyle: { width: 3, color: colour('cold'), type: noted ? 'dotted' : 'solid' },
              itemStyle: { color: colour('cold') },
              markLine: {
                silent: true,
                symbol: 'none',
                lineStyle: { color: colour('quiet'), type: 'dashed' },
                label: { position: 'insideStartTop', color: colour('quiet'), fontSize: 12 },
                data: marks.map(({ name, value }) => ({ yAxis: value, label: { formatter: name } })),
              },
            },
            ...expected.map(({ name, points }, i) => ({
              type: 'line',
              name,
              data: points.map((point) => [...point]),
              showSymbol: false,
              lineStyle: { width: 2, color: colour('copper'), type: i === 0 ? [6, 4] : [2, 4] },
              itemStyle: { color: colour('copper') },
            })),
          ],
        },
        { notMerge: true },
      )
    },
    remove() {
      resize.disconnect()
      chart.dispose()
    },
  }
}
