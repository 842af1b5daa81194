// The player as a form: on the Player screen, and where the walk begins.
import { computed, ref, watch } from 'vue'
import { api, type Player, type PlayerSheet, take } from '@/api/client'
import { useSaving } from '@/api/saving'
import { useUnsaved } from '@/common/useGuarded'
import { ifMatch, playerOf, useActions, usePlayer } from '@/api/useData'

export type Habits = Required<NonNullable<Player['habits']>>
export type Feel = Habits['feel'][number]

export const SCHOOLS: Record<Player['school'], { label: string; short: string; about: string }> = {
  five: {
    label: 'Five: Hook, Lean, Rail, Drift, Slide',
    short: 'five pegs',
    about: 'From the disc that always comes back to the one that turns and keeps turning.',
  },
  three: {
    label: 'Three: Lean, Rail, Drift',
    short: 'three pegs',
    about: 'One that finishes surely, one that goes straight, one that turns.',
  },
  beginner: {
    label: 'Beginner: Rail and Drift, slow and light',
    short: 'beginner',
    about:
      'Speed 7 and below until you drive about 91 m (300 ft) with control of nose and angle; nothing your arm cannot turn over; rather base plastic and light.',
  },
  lean: {
    label: 'Lean: Lean and Rail, slow discs only',
    short: 'lean',
    about: 'Few discs, straight and overstable, none faster than a fairway driver, those that can be lost.',
  },
}
export const PUTTING: Record<NonNullable<Habits['putting']>, string> = {
  push: 'with a push: little spin, lofted',
  spin: 'with a spin: fast and flat',
  straddle: 'from a straddle',
  turnover: 'turnover: on anhyzer',
  jump: 'mostly with a jump',
}
export const HAND_USES: Record<Feel['used'], string> = {
  putting: 'putt with',
  putters: 'throw putters',
  mid_ranges: 'throw mid-ranges',
  fairways: 'throw fairway drivers',
  drivers: 'throw drivers',
}
export const STIFFNESS: Record<NonNullable<Feel['stiffness']>, string> = {
  soft: 'soft',
  medium: 'medium',
  stiff: 'stiff',
}
const NO_HABITS: Habits = {
  control_lane: false,
  fast_first: false,
  shares: [],
  avoid: [],
  rollers: false,
  putting: null,
  feel: [],
  mould_strokes: 0,
  schools: [],
  calendar: {},
}

export const SKILLS: Record<Player['skill'], string> = {
  beginner: 'Beginner: first seasons',
  club: 'Club: plays every week',
  advanced: 'Advanced: wins club events',
  top: 'Top: competes at the top',
}

export function usePlayerForm() {
  const stored = usePlayer()
  const actions = useActions()
  const form = ref<Player | null>(null)
  const saving = useSaving<Player>(async (body, etag) => {
    await take(api.PUT('/api/player', { params: { header: ifMatch(etag) }, body }))
    await actions.refresh()
  })

  /** Whether something is typed that is not saved. */
  const changed = () =>
    form.value !== null && JSON.stringify(form.value) !== JSON.stringify(saving.seen.value?.base)
  function show(sheet: PlayerSheet) {
    form.value = playerOf(sheet)
    saving.begin(form.value, sheet.etag)
  }
  watch(
    () => stored.data.value,
    // What is typed stays, whatever another window saves meanwhile.
    (sheet) => sheet && !changed() && show(sheet),
    { immediate: true },
  )

  function saved(done: boolean): boolean {
    if (!done || !stored.data.value) return false
    actions.did(`The player is saved${saving.kept.value}`)
    show(stored.data.value)
    return true
  }
  const save = async () => saved(form.value !== null && (await saving.save(form.value)))
  const settle = async (whose: 'mine' | 'theirs') => saved(await saving.settle(whose))
  const habits = computed<Habits>({
    get: () => ({ ...NO_HABITS, ...form.value?.habits }),
    set: (value) => {
      if (form.value) form.value.habits = value
    },
  })

  useUnsaved(changed)
  return { stored, form, habits, changed, save, settle, problem: saving.problem, clashes: saving.clashes }
}
