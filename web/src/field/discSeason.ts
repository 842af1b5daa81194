// How far a disc went over the season, as a plot: a point a day and style, with the spread of its throws.
import type { EChartsCoreOption } from 'echarts/core'
import type { DayDistance, Style, Units } from '@/api/client'
import { shown, unit } from '@/common/units'
import { STYLES } from '@/lines/line'

const SYMBOLS = ['circle', 'diamond', 'triangle', 'rect', 'arrow'] as const

/** What a day says, in words. */
export function dayWords(day: DayDistance, units: Units): string {
  const far = shown(units, 'distance', day.distance_m.mean, 1)
  const sd = day.distance_m.sd == null ? '' : ` ± ${shown(units, 'distance', day.distance_m.sd, 1)}`
  return `${day.date}, ${day.place}, ${STYLES[day.style]}: ${far}${sd} in ${day.distance_m.n}`
}

export function discSeasonOption(
  days: readonly DayDistance[],
  units: Units,
  colour: (variable: string) => string,
  font: string,
): EChartsCoreOption {
  const far = (m: number) => unit(units, 'distance').toShown(m)
  const ink = colour('--ink')
  const text = { color: ink, fontFamily: font, fontSize: 14 }
  const styles = [...new Set(days.map((d) => d.style))]
  const of = (style: Style) => days.filter((d) => d.style === style)
  const bar = (d: DayDistance) => {
    const sd = d.distance_m.sd ?? 0
    return [d.date, far(d.distance_m.mean - sd), far(d.distance_m.mean + sd)]
  }
  return {
    animation: false,
    legend: { show: styles.length > 1, textStyle: text, top: 0 },
    grid: { left: 8, right: 24, top: 34, bottom: 8, containLabel: true },
    tooltip: {
      trigger: 'item',
      formatter: ({ seriesIndex, dataIndex }: { seriesIndex?: number; dataIndex: number }) => {
        const style = styles[Math.floor((seriesIndex ?? 0) / 2)]
        const day = style && of(style)[dataIndex]
        return day ? dayWords(day, units) : ''
      },
    },
    xAxis: {
      type: 'time',
      axisLabel: { ...text, hideOverlap: true },
      axisLine: { lineStyle: { color: ink } },
    },
    yAxis: {
      type: 'value',
      name: unit(units, 'distance').symbol,
      scale: true,
      axisLabel: text,
      nameTextStyle: text,
      splitLine: { lineStyle: { color: colour('--rule-soft') } },
    },
    series: styles.flatMap((style, k) => [
      {
        type: 'custom',
        silent: true,
        data: of(style).map(bar),
        encode: { x: 0, y: [1, 2] },
        renderItem: (_: unknown, at: { value: (k: number) => number; coord: (p: number[]) => number[] }) => {
          const [x, low] = at.coord([at.value(0), at.value(1)])
          const [, high] = at.coord([at.value(0), at.value(2)])
          return {
            type: 'line',
            shape: { x1: x, y1: low, x2: x, y2: high },
            style: { stroke: ink, lineWidth: 2 },
          }
        },
      },
      {
        type: 'scatter',
        name: STYLES[style],
        symbol: SYMBOLS[k % SYMBOLS.length],
        symbolSize: 13,
        itemStyle: { color: colour('--panel'), borderColor: ink, borderWidth: 2 },
        data: of(style).map((d) => [d.date, far(d.distance_m.mean)]),
      },
    ]),
  }
}
