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
