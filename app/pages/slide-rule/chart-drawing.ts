import { LineChart, ScatterChart } from 'echarts/charts'
import { GridComponent, LegendComponent, TooltipComponent } from 'echarts/components'
import { init, use as register } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import type { Chart } from '~/slide-rule/outcome'

register([LineChart, ScatterChart, GridComponent, LegendComponent, TooltipComponent, SVGRenderer])

/** Told apart by dash as well as by colour. */
const DASHES = ['solid', [8, 4], [2, 4], [12, 4, 2, 4]] as const
const round = (value: number) => Number(value.toPrecision(4))

/** Draws the lines and keeps them as wide as their place. @returns a function that removes them */
export function drawChart(element: HTMLElement, { x, y, lines, marks }: Chart): () => void {
  const chart = init(element, undefined, { renderer: 'svg' })
  const style = getComputedStyle(element)
  const colour = (name: string) => style.getPropertyValue(`--keg-${name}`)
  const { fontFamily } = style
  const text = { color: colour('quiet'), fontFamily, fontSize: 13 }
  const colours = ['copper', 'cold', 'good', 'amber'].map(colour)
  const axis = {
    nameTextStyle: text,
    axisLabel: { ...text, hideOverlap: true, formatter: (value: number) => String(round(value)) },
    splitLine: { lineStyle: { color: colour('rule') } },
  }
  chart.setOption({
    animation: false,
    textStyle: { fontFamily },
    grid: { left: 64, right: 24, top: 24 + 24 * Math.ceil(lines.length / 2), bottom: 44 },
    legend: { top: 0, left: 0, textStyle: text, itemGap: 18 },
    tooltip: {
      trigger: 'axis',
      valueFormatter: (value: unknown) => `${round(Number(value))} ${y.unit}`,
      axisPointer: { label: { formatter: ({ value }: { value: number }) => `${round(value)} ${x.unit}` } },
    },
    xAxis: {
      type: 'value',
      min: 'dataMin',
      name: `${x.name}, ${x.unit}`,
      nameLocation: 'middle',
      nameGap: 28,
      ...axis,
    },
    yAxis: { type: y.log ? 'log' : 'value', axisLine: { onZero: false }, name: y.unit, ...axis },
    series: [
      ...lines.map(({ name, points }, i) => ({
        type: 'line',
        name,
        data: points,
        showSymbol: false,
        lineStyle: { width: 3, type: DASHES[i % DASHES.length], color: colours[i % colours.length] },
        itemStyle: { color: colours[i % colours.length] },
      })),
      ...marks.map((mark) => ({
        type: 'scatter',
        name: mark.name,
        data: [[mark.x, mark.y]],
        symbolSize: 16,
        itemStyle: { color: colour('ink') },
        z: 5,
      })),
    ],
  })
  const resize = new ResizeObserver(() => chart.resize())
  resize.observe(element)
  return () => {
    resize.disconnect()
    chart.dispose()
  }
}
