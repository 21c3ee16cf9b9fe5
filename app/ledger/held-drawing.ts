import { BarChart, LineChart } from 'echarts/charts'
import { GridComponent, LegendComponent, MarkLineComponent } from 'echarts/components'
import { init, use as register } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import type { Pen } from '~/base/ui/drawing/drawn'
import { inkOf } from '~/base/ui/drawing/ink'

register([BarChart, LineChart, GridComponent, LegendComponent, MarkLineComponent, SVGRenderer])

/** What a place held, and what came in and went out: when, ms, and how much in the reader's unit. */
export interface HeldInput {
  points: readonly (readonly [at: number, held: number])[]
  moved: readonly (readonly [at: number, inIt: number, outOfIt: number])[]
  unit: string
  /** Where it is full. */
  full?: { value: number; name: string }
}

export function heldIn(element: HTMLElement): Pen<HeldInput> {
  const chart = init(element, undefined, { renderer: 'svg' })
  const resize = new ResizeObserver(() => chart.resize())
  resize.observe(element)
  return {
    show({ points, moved, unit, full }) {
      const { colour, fontFamily, text } = inkOf(element)
      chart.setOption(
        {
          animation: false,
          textStyle: { fontFamily },
          legend: { top: 0, right: 0, textStyle: text, itemHeight: 10 },
          grid: { left: 44, right: 16, top: 34, bottom: 28 },
          xAxis: { type: 'time', axisLabel: { ...text, hideOverlap: true } },
          yAxis: {
            type: 'value',
            max: ({ max }: { max: number }) => (full ? Math.ceil(Math.max(max, full.value) * 1.05) : null),
            name: unit,
            nameTextStyle: text,
            axisLabel: text,
            splitLine: { lineStyle: { color: colour('rule') } },
          },
          series: [
            {
              type: 'bar',
              name: 'in',
              barWidth: 7,
              data: moved.map(([at, inIt]) => [at, inIt]),
              itemStyle: { color: colour('cold') },
            },
            {
              type: 'bar',
              name: 'out',
              barWidth: 7,
              barGap: '-100%',
              data: moved.map(([at, , outOfIt]) => [at, -outOfIt]),
              itemStyle: { color: colour('amber') },
            },
            {
              type: 'line',
              name: 'then in it',
              step: 'end',
              data: points.map(([at, held]) => [at, held]),
              symbolSize: 7,
              lineStyle: { color: colour('copper'), width: 2 },
              itemStyle: { color: colour('copper') },
              areaStyle: { color: colour('copper'), opacity: 0.12 },
              ...(full && {
                markLine: {
                  silent: true,
                  symbol: 'none',
                  lineStyle: { color: colour('quiet'), type: 'dashed' },
                  label: { ...text, formatter: full.name, position: 'insideStartTop' },
                  data: [{ yAxis: full.value }],
                },
              }),
            },
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
