// The scatter month by month, as a plot: a point a month with a bar that holds the true figure in nine cases of ten.
import type { EChartsCoreOption } from 'echarts/core'
import type { MonthScatter } from '@/api/client'
import { figure } from '@/common/units'
import { bars, type Look } from '@/common/useChart'

type Quantity = 'along_pct' | 'side_deg'
const UNITS: Record<Quantity, string> = { along_pct: 'distance, ± %', side_deg: 'sides, ± °' }
const monthOf = (m: MonthScatter) => m.month.slice(0, 7)

/** What a month says, in words. */
export function monthWords(m: MonthScatter): string {
  const said = (s: { found: number; low: number; high: number }, symbol: string) =>
    `${figure(s.found, 1)}${symbol} (${figure(s.low, 1)} to ${figure(s.high, 1)})`
  const side = m.side_deg ? `, sides ${said(m.side_deg, '°')}` : ''
  return `${monthOf(m)}: distance ${said(m.along_pct, ' %')}${side}, ${m.throws} throws`
}

export function scatterMonthsOption(
  months: readonly MonthScatter[],
  of: Quantity,
  { colour, font }: Look,
): EChartsCoreOption {
  const ink = colour('--ink')
  const text = { color: ink, fontFamily: font, fontSize: 14 }
  const known = months.flatMap((m) => (m[of] ? [{ at: monthOf(m), ...m[of] }] : []))
  return {
    animation: false,
    grid: { left: 8, right: 24, top: 30, bottom: 8, containLabel: true },
    tooltip: {
      trigger: 'item',
      formatter: ({ dataIndex }: { dataIndex: number }) => monthWords(months[dataIndex]!),
    },
    xAxis: {
      type: 'category',
      data: known.map((m) => m.at),
      axisLabel: { ...text, hideOverlap: true },
      axisLine: { lineStyle: { color: ink } },
    },
    yAxis: {
      type: 'value',
      name: UNITS[of],
      min: 0,
      axisLabel: text,
      nameTextStyle: { ...text, align: 'left' },
      splitNumber: 3,
      splitLine: { lineStyle: { color: colour('--rule-soft') } },
    },
    series: [
      bars(
        known.map((m, k) => [k, m.low, m.high] as const),
        ink,
      ),
      {
        type: 'scatter',
        symbolSize: 13,
        itemStyle: { color: colour('--panel'), borderColor: ink, borderWidth: 2 },
        data: known.map((m, k) => [k, m.found]),
      },
    ],
  }
}
