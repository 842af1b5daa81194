// A long list of which only what is in sight is drawn.
import { useWindowVirtualizer } from '@tanstack/vue-virtual'
import { computed, type Ref, ref, watch } from 'vue'

/** Rows drawn beyond either end of what is in sight. */
const AROUND = 40

/** Which of `count` rows are drawn, and the room that those above and below take. `list` is what they stand in. */
export function useRows(count: () => number, height: () => number, list: Ref<HTMLElement | null>) {
  const top = ref(0)
  const measure = () => (top.value = list.value ? list.value.getBoundingClientRect().top + window.scrollY : 0)
  watch([list, count], measure, { flush: 'post' })
  const virtualizer = useWindowVirtualizer(
    computed(() => ({
      count: count(),
      estimateSize: height,
      overscan: AROUND,
      scrollMargin: top.value,
    })),
  )
  watch(height, () => virtualizer.value.measure())
  const items = computed(() => virtualizer.value.getVirtualItems())
  const above = computed(() => (items.value[0]?.start ?? top.value) - top.value)
  const below = computed(
    () => virtualizer.value.getTotalSize() - ((items.value.at(-1)?.end ?? top.value) - top.value),
  )
  return { shown: computed(() => items.value.map((i) => i.index)), above, below }
}
