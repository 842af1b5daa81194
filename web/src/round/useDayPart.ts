// Changes a part of the day of a course, one change behind the other: what is ticked quickly is all kept.
import { api, type Course, type CourseDay, type CourseSpec, ProblemError, take } from '@/api/client'
import { useSaving } from '@/api/saving'
import { ifMatch, useActions } from '@/api/useData'
import { specOf, usualDay } from '@/round/course'

export function useDayPart(course: () => Course | undefined) {
  const actions = useActions()
  let before: Promise<unknown> = Promise.resolve()

  async function change(part: (day: CourseDay) => CourseDay) {
    const now = course()
    if (!now) return
    const saving = useSaving<CourseSpec>(async (body, etag) => {
      const params = { path: { id: now.id }, header: ifMatch(etag) }
      await take(api.PUT('/api/courses/{id}', { params, body }))
      await actions.refresh()
    })
    const spec = specOf(now)
    saving.begin(spec, now.etag)
    if (!(await saving.save({ ...spec, day: part(spec.day ?? usualDay()) }))) {
      await actions.refresh()
      throw (
        saving.problem.value ??
        new ProblemError('Another window changed the day just now. Look at it and choose again.')
      )
    }
  }
  return (part: (day: CourseDay) => CourseDay) =>
    (before = before.then(() => actions.attempt(() => change(part))))
}
