import { LineChart } from 'echarts/charts'
import { GridComponent, LegendComponent, TooltipComponent } from 'echarts/components'
import { init, use as register } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'

register([LineChart, GridComponent, LegendComponent, TooltipComponent, SVGRenderer])

export interface Strip {
  runs: { name: string; points: [at: number, weight: number][] }[]
  vacuum: [at: number, pressure: number][]
  weightUnit: string
  vacuumUnit: string
  time: (at: number) => string
  colours: Record<'ink' | 'quiet' | 'rule' | 'copper' | 'cold', string>
}

/** Draws the strip and keeps it as wide as its place. @returns a function that removes it */
export function drawStrip(element: HTMLElement, strip: Strip): () => void {
  const { colours, time } = strip
  const chart = init(element, undefined, { renderer: 'svg' })
  // Named, not inherited: text is measured before it stands in the page.
  const { fontFamily } = getComputedStyle(element)
  const text = { color: colours.quiet, fontFamily, fontSize: 13 }
  const hasVacuum = strip.vacuum.length > 1
  const hasWeight = strip.runs.some((run) => run.points.length > 1)
  const round = (value: unknown, unit: string) => `${Number(Number(value).toPrecision(4))} ${unit}`
  chart.setOption({
    animation: false,
    textStyle: { fontFamily },
    grid: { left: 56, right: hasVacuum ? 64 : 16, top: 58, bottom: 28 },
    legend: { top: 0, left: 0, textStyle: text, itemGap: 18 },
    tooltip: {
      trigger: 'axis',
      axisPointer: { label: { formatter: ({ value }: { value: number }) => time(value) } },
    },
    xAxis: {
      type: 'time',
      axisLabel: { ...text, formatter: (at: number) => time(at), hideOverlap: true },
      axisLine: { lineStyle: { color: colours.quiet } },
    },
    yAxis: [
      {
        type: 'value',
        scale: true,
        show: hasWeight,
        name: strip.weightUnit,
        nameTextStyle: text,
        axisLabel: text,
        splitLine: { lineStyle: { color: colours.rule } },
      },
      {
        type: 'log',
        show: hasVacuum,
        name: strip.vacuumUnit,
        nameTextStyle: text,
        axisLabel: text,
        splitLine: { show: !hasWeight, lineStyle: { color: colours.rule } },
      },
    ],
    series: [
      ...strip.runs.map((run) => ({
        type: 'line',
        name: run.name,
        data: run.points,
        symbolSize: 8,
        lineStyle: { width: 3, color: colours.copper },
        itemStyle: { color: colours.copper },
        tooltip: { valueFormatter: (value: unknown) => round(value, strip.weightUnit) },
      })),
      ...(hasVacuum
        ? [
            {
              type: 'line',
              name: 'Vacuum gauge',
              yAxisIndex: 1,
              data: strip.vacuum,
              symbol: 'diamond',
              symbolSize: 8,
              lineStyle: { width: 2, type: 'dashed', color: colours.cold },
              itemStyle: { color: colours.cold },
              tooltip: { valueFormatter: (value: unknown) => round(value, strip.vacuumUnit) },
            },
          ]
        : []),
    ],
  })
  const resize = new ResizeObserver(() => chart.resize())
  resize.observe(element)
  return () => {
    resize.disconnect()
    chart.dispose()
  }
}
