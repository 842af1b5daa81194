// A plot that is drawn anew when what it shows, its room or the theme changes. Whoever uses it says which parts of ECharts it needs.
import { useElementSize } from '@vueuse/core'
import { type EChartsCoreOption, type EChartsType, init, use } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import { nextTick, onBeforeUnmount, type ShallowRef, watch, type WatchSource } from 'vue'
import { useDark } from '@/common/useDark'

use([SVGRenderer])

/** The colour behind a variable of the theme, and the font of the page. */
export interface Look {
  colour: (variable: string) => string
  font: string
}

/** A series of upright bars from a low to a high figure, each at its place along the other axis. */
export const bars = (data: readonly (readonly [string | number, number, number])[], colour: string) => ({
  type: 'custom' as const,
  silent: true,
  data,
  encode: { x: 0, y: [1, 2] },
  renderItem: (_: unknown, at: { value: (k: number) => number; coord: (p: number[]) => number[] }) => {
    const [x, low] = at.coord([at.value(0), at.value(1)])
    const [, high] = at.coord([at.value(0), at.value(2)])
    return {
      type: 'line' as const,
      shape: { x1: x, y1: low, x2: x, y2: high },
      style: { stroke: colour, lineWidth: 2 },
    }
  },
})

/** Draws into `plot` what `option` says, as long as it says anything, `height` pixels high. */
export function useChart(
  plot: Readonly<ShallowRef<HTMLElement | null>>,
  height: () => number,
  option: (look: Look) => EChartsCoreOption | undefined,
  shows: WatchSource[],
) {
  const dark = useDark()
  const { width } = useElementSize(plot)
  let chart: EChartsType | undefined
  watch(
    [dark, width, ...shows],
    async () => {
      await nextTick()
      if (!plot.value || width.value === 0) return
      const now = option({
        colour: (variable) => getComputedStyle(document.documentElement).getPropertyValue(variable).trim(),
        font: getComputedStyle(document.body).fontFamily,
      })
      if (!now) return
      if (chart?.getDom() !== plot.value) {
        chart?.dispose()
        chart = init(plot.value, undefined, { renderer: 'svg' })
      }
      chart.resize({ width: width.value, height: height() })
      chart.setOption(now, { notMerge: true })
    },
    { immediate: true, flush: 'post' },
  )
  onBeforeUnmount(() => chart?.dispose())
}
