// Distances at which a picture of flights has a ring, in round numbers of the player's units.
import { scaleLinear } from 'd3-scale'
import { computed } from 'vue'
import { useUnits } from '@/api/useData'
import { unit } from '@/common/units'

export function useRings(far_m: () => number, about: number) {
  const units = useUnits()
  const distance = computed(() => unit(units.value, 'distance'))
  const rings = computed(() =>
    scaleLinear([0, distance.value.toShown(far_m())], [0, 1])
      .ticks(about)
      .filter((t) => t > 0)
      .map((t) => ({ label: `${t}`, m: distance.value.toSi(t) })),
  )
  return { rings, symbol: computed(() => distance.value.symbol) }
}
