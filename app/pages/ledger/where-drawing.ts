import { BarChart } from 'echarts/charts'
import { GridComponent, LegendComponent } from 'echarts/components'
import { init, use as register } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import type { Pen } from '~/base/ui/drawing/drawn'
import { inkOf } from '~/base/ui/drawing/ink'

register([BarChart, GridComponent, LegendComponent, SVGRenderer])

/** Where each gas is, or went: shares of all that the books ever had of it in the span. */
export interface WhereInput {
  gases: readonly string[]
  parts: readonly { name: string; tone: string; shares: readonly number[] }[]
}

export function whereIn(element: HTMLElement): Pen<WhereInput> {
  const chart = init(element, undefined, { renderer: 'svg' })
  const resize = new ResizeObserver(() => chart.resize())
  resize.observe(element)
  return {
    show({ gases, parts }) {
      const { colour, fontFamily, text } = inkOf(element)
      chart.setOption(
        {
          animation: false,
          textStyle: { fontFamily },
          grid: { left: 92, right: 12, top: 44, bottom: 24 },
          legend: { top: 0, left: 0, textStyle: text, itemHeight: 10 },
          yAxis: {
            type: 'category',
            inverse: true,
            data: [...gases],
            axisTick: { show: false },
            axisLine: { show: false },
            axisLabel: { ...text, color: colour('ink') },
          },
          xAxis: {
            type: 'value',
            max: 100,
            axisLabel: { ...text, formatter: '{value} %' },
            splitLine: { lineStyle: { color: colour('rule') } },
          },
          series: parts.map(({ name, tone, shares }) => ({
            type: 'bar',
            name,
            stack: 'all',
            barMaxWidth: 26,
            data: shares.map((share) => Math.round(1000 * share) / 10),
            itemStyle: { color: colour(tone), borderColor: colour('sheet'), borderWidth: 1 },
          })),
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
