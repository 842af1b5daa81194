// Whether the dark theme is on, for what is drawn by others and knows no style sheet.
import { onBeforeUnmount, onMounted, ref } from 'vue'

export function useDark() {
  const isDark = () => document.documentElement.classList.contains('dark')
  const dark = ref(isDark())
  const observer = new MutationObserver(() => (dark.value = isDark()))
  onMounted(() =>
    observer.observe(document.documentElement, { attributes: true, attributeFilter: ['class'] }),
  )
  onBeforeUnmount(() => observer.disconnect())
  return dark
}
