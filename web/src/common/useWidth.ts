// The width of an element, kept up to date.
import { onBeforeUnmount, onMounted, ref, type Ref } from 'vue'

export function useWidth(element: Ref<HTMLElement | null>): Ref<number> {
  const width = ref(0)
  let observer: ResizeObserver | undefined
  onMounted(() => {
    if (!element.value) return
    width.value = element.value.clientWidth
    observer = new ResizeObserver(() => (width.value = element.value?.clientWidth ?? 0))
    observer.observe(element.value)
  })
  onBeforeUnmount(() => observer?.disconnect())
  return width
}
