import { BarChart } from 'echarts/charts'
import { GridComponent } from 'echarts/components'
import { init, use as register } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import type { Pen } from '~/base/ui/drawing/drawn'

register([BarChart, GridComponent, SVGRenderer])

/** Bars from one sum to the next, in the reader's words. */
export interface WaterfallInput {
  steps: readonly {
    name: string
    /** Where the bar begins and how tall it is, kg. */
    from: number
    height: number
    tone: 'sum' | 'up' | 'down' | 'amiss'
    label: string
  }[]
}

const INK = { sum: 'copper', up: 'cold', down: 'quiet', amiss: 'limit' } as const

export function waterfallIn(element: HTMLElement): Pen<WaterfallInput> {
  const chart = init(element, undefined, { renderer: 'svg' })
  const resize = new ResizeObserver(() => chart.resize())
  resize.observe(element)
  return {
    show({ steps }) {
      const style = getComputedStyle(element)
      const colour = (name: string) => style.getPropertyValue(`--keg-${name}`)
      const { fontFamily } = style
      chart.setOption(
        {
          animation: false,
          textStyle: { fontFamily },
          grid: { left: 130, right: 96, top: 4, bottom: 4 },
          // One below the other: names of lines are long, and phones are narrow.
          yAxis: {
            type: 'category',
            inverse: true,
            data: steps.map((each) => each.name),
            axisTick: { show: false },
            axisLine: { show: false },
            axisLabel: {
              color: colour('ink'),
              fontFamily,
              fontSize: 13,
              width: 120,
              overflow: 'truncate',
            },
          },
          xAxis: { type: 'value', min: 0, show: false },
          series: [
            {
              type: 'bar',
              stack: 'all',
              silent: true,
              itemStyle: { color: 'transparent' },
              data: steps.map((each) => each.from),
            },
            {
              type: 'bar',
              stack: 'all',
              silent: true,
              barWidth: '70%',
              data: steps.map((each) => ({
                value: each.height,
                itemStyle: { color: colour(INK[each.tone]) },
                label: {
                  show: true,
                  position: 'right',
                  formatter: each.label,
                  color: colour('ink'),
                  fontFamily,
                  fontSize: 13,
                },
              })),
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
