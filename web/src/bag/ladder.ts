// The distance ladder as a plot: bars that float between distances.
import type { EChartsCoreOption } from 'echarts/core'
import type { Ladder, Units } from '@/api/client'
import { shown, unit } from '@/common/units'
import type { Look } from '@/common/useChart'

export function ladderOption(
  ladder: Ladder,
  units: Units,
  name: (id: number) => string,
  { colour, font }: Look,
): EChartsCoreOption {
  const far = (m: number) => unit(units, 'distance').toShown(m)
  const rungs = ladder.rungs
  const low = rungs.map((r) => Math.min(r.soft_m, r.three_quarter_m, r.full_m))
  const mid = rungs.map((r, k) => Math.max(low[k] ?? 0, r.three_quarter_m))
  const high = rungs.map((r, k) => Math.max(mid[k] ?? 0, r.full_m))
  const ink = colour('--ink')
  const text = { color: ink, fontFamily: font, fontSize: 14 }
  const bar = { type: 'bar', stack: 'rung', barWidth: 16, cursor: 'default' } as const
  return {
    animation: false,
    grid: { left: 8, right: 64, top: 8, bottom: 34, containLabel: true },
    tooltip: {
      trigger: 'axis',
      axisPointer: { type: 'none' },
      formatter: (points: { dataIndex: number }[]) => {
        const r = rungs[points[0]?.dataIndex ?? 0]
        if (!r) return ''
        const say = (m: number) => shown(units, 'distance', m)
        return `soft ${say(r.soft_m)}, three-quarter ${say(r.three_quarter_m)}, full ${say(r.full_m)}`
      },
    },
    xAxis: {
      type: 'value',
      name: unit(units, 'distance').symbol,
      nameLocation: 'end',
      min: 0,
      axisLabel: text,
      nameTextStyle: text,
      splitLine: { lineStyle: { color: colour('--rule-soft') } },
    },
    yAxis: {
      type: 'category',
      data: rungs.map((r) => name(r.disc_id)),
      axisLabel: { ...text, width: 150, overflow: 'truncate' },
      axisTick: { show: false },
      axisLine: { lineStyle: { color: ink } },
    },
    series: [
      { ...bar, data: low.map(far), itemStyle: { color: 'transparent' }, silent: true },
      {
        ...bar,
        data: mid.map((m, k) => far(m) - far(low[k] ?? 0)),
        itemStyle: { color: colour('--rule'), borderColor: ink, borderWidth: 1 },
      },
      {
        ...bar,
        data: high.map((m, k) => far(m) - far(mid[k] ?? 0)),
        itemStyle: { color: ink },
        label: {
          show: true,
          position: 'right',
          ...text,
          formatter: (p: { dataIndex: number }) => shown(units, 'distance', high[p.dataIndex] ?? 0),
        },
        markArea: {
          silent: true,
          itemStyle: {
            color: 'transparent',
            borderColor: colour('--accent'),
            borderWidth: 2,
            borderType: 'dashed',
          },
          data: ladder.holes.map((h) => [{ xAxis: far(h.from_m) }, { xAxis: far(h.to_m) }]),
        },
      },
    ],
  }
}
