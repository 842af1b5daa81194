// What is known of the discs beside what they are: where they lie, what they are worth.
import { computed } from 'vue'
import type { Disc, ShelfDisc } from '@/api/client'
import { useBag, useDiscs, usePlastics, useSeason, useWalk } from '@/api/useData'
import { GRADES, worthOfEach } from '@/common/disc'
import { type Facts, whereabouts } from '@/shelf/shelf'

export type Known = ReturnType<typeof useKnown>

export function useKnown() {
  const discs = useDiscs()
  const bag = useBag()
  const plastics = usePlastics()
  const labels = computed(() => new Map(plastics.data.value?.map((f) => [f.plastic, f.label] as const)))
  const plasticName = (p: Disc['plastic']) => labels.value.get(p) ?? p
  const carried = computed(() => new Map(bag.data.value?.carried.map((c) => [c.disc_id, c] as const)))
  const carriedAs = (id: number) => carried.value.get(id)

  const season = useSeason(() => discs.data.value !== undefined)
  const worths = computed(() => worthOfEach(season.data.value))
  /** Where each disc sits, or would. */
  const walk = useWalk()
  const pegs = computed(() => {
    const lanes = walk.data.value?.lanes ?? []
    return new Map(
      lanes.flatMap((l) => [...l.here, ...l.shelf]).map((d) => [d.disc_id, d.peg ?? null] as const),
    )
  })
  const facts = (id: number): Facts => ({
    carried: carried.value.has(id),
    peg: pegs.value.get(id) ?? null,
    strokes: worths.value.get(id)?.missed_strokes ?? 0,
  })

  const wear = (d: Disc) => (d.wear.throws == null ? GRADES[d.wear.grade] : `${d.wear.throws} throws`)
  const today = new Date().toISOString().slice(0, 10)
  const where = (d: ShelfDisc) => whereabouts(d, carriedAs(d.id), today)

  return { plasticName, carriedAs, worths, facts, wear, where, judging: season.isFetching }
}
