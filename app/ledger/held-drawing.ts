import { LineChart } from 'echarts/charts'
import { GridComponent, MarkLineComponent } from 'echarts/components'
import { init, use as register } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import type { Pen } from '~/ui/drawing/drawn'
import { inkOf } from '~/ui/drawing/ink'

register([LineChart, GridComponent, MarkLineComponent, SVGRenderer])

/** What a place held: when, ms, and how much in the reader's unit. */
export interface HeldInput {
  points: readonly (readonly [at: number, held: number])[]
  unit: string
  /** Where it is full. */
  full?: { value: number; name: string }
}

export function heldIn(element: HTMLElement): Pen<HeldInput> {
  const chart = init(element, undefined, { renderer: 'svg' })
  const resize = new ResizeObserver(() => chart.resize())
  resize.observe(element)
  return {
    show({ points, unit, full }) {
      const { colour, fontFamily, text } = inkOf(element)
      chart.setOption(
        {
          animation: false,
          textStyle: { fontFamily },
          grid: { left: 44, right: 16, top: 28, bottom: 28 },
          xAxis: { type: 'time', axisLabel: { ...text, hideOverlap: true } },
          yAxis: {
            type: 'value',
            name: unit,
            nameTextStyle: text,
            axisLabel: text,
            splitLine: { lineStyle: { color: colour('rule') } },
          },
          series: [
            {
              type: 'line',
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
