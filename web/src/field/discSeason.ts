// How far a disc went over the season, as a plot: a point a day and style, with the spread of its throws.
import type { EChartsCoreOption } from 'echarts/core'
import type { DayDistance, Units } from '@/api/client'
import { bars, type Look } from '@/common/useChart'
import { shown, unit } from '@/common/units'
import { MEANT } from '@/field/log'
import { STYLES } from '@/lines/line'

const DAY_MS = 86_400_000
const BESIDE_MS = 4 * DAY_MS
const SYMBOLS = ['circle', 'diamond', 'triangle', 'rect', 'arrow'] as const

/** How the throws of a day were thrown and meant. */
const howOf = (day: DayDistance) =>
  day.meant === 'flat' ? STYLES[day.style] : `${STYLES[day.style]} ${MEANT[day.meant]}`

/** What a day says, in words. */
export function dayWords(day: DayDistance, units: Units): string {
  const far = shown(units, 'distance', day.distance_m.mean, 1)
  const sd = day.distance_m.sd == null ? '' : ` ± ${shown(units, 'distance', day.distance_m.sd, 1)}`
  return `${day.date}, ${day.place}, ${howOf(day)}: ${far}${sd} in ${day.distance_m.n}`
}

export function discSeasonOption(
  days: readonly DayDistance[],
  units: Units,
  { colour, font }: Look,
): EChartsCoreOption {
  const far = (m: number) => unit(units, 'distance').toShown(m)
  const ink = colour('--ink')
  const text = { color: ink, fontFamily: font, fontSize: 14 }
  const ways = [...new Set(days.map(howOf))]
  const of = (way: string) => days.filter((d) => howOf(d) === way)
  const bar = (d: DayDistance) => {
    const sd = d.distance_m.sd ?? 0
    return [d.date, far(d.distance_m.mean - sd), far(d.distance_m.mean + sd)] as const
  }
  return {
    animation: false,
    legend: { show: ways.length > 1, textStyle: text, top: 0 },
    grid: { left: 8, right: 24, top: 34, bottom: 8, containLabel: true },
    tooltip: {
      trigger: 'item',
      formatter: ({ seriesIndex, dataIndex }: { seriesIndex?: number; dataIndex: number }) => {
        const way = ways[Math.floor((seriesIndex ?? 0) / 2)]
        const day = way && of(way)[dataIndex]
        return day ? dayWords(day, units) : ''
      },
    },
    xAxis: {
      type: 'time',
      // A day alone has room on both sides of it.
      min: ({ min }: { min: number }) => min - BESIDE_MS,
      max: ({ max }: { max: number }) => max + BESIDE_MS,
      minInterval: DAY_MS,
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
    series: ways.flatMap((way, k) => [
      bars(of(way).map(bar), ink),
      {
        type: 'scatter',
        name: way,
        symbol: SYMBOLS[k % SYMBOLS.length],
        symbolSize: 13,
        itemStyle: { color: colour('--panel'), borderColor: ink, borderWidth: 2 },
        data: of(way).map((d) => [d.date, far(d.distance_m.mean)]),
      },
    ]),
  }
}
