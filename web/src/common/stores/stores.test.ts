// @vitest-environment happy-dom
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { createApp, nextTick } from 'vue'
import { createMemoryHistory, createRouter } from 'vue-router'
import { useBagChoice } from './bag'
import { useDay } from './day'
import { useNotice } from './notice'
import { useSelection } from './selection'

beforeEach(() => {
  localStorage.clear()
  setActivePinia(createPinia())
})

describe('notice', () => {
  it('undoes the last thing first and says so', async () => {
    const notice = useNotice()
    const undone: string[] = []
    notice.done('first', async () => void undone.push('first'))
    notice.done('second', async () => void undone.push('second'))
    await notice.undo()
    expect(undone).toEqual(['second'])
    expect(notice.message).toBe('Undone: second')
    await notice.undo()
    expect(undone).toEqual(['second', 'first'])
    await notice.undo()
    expect(notice.message).toBe('There is nothing to undo.')
  })

  it('keeps an error until it is read, and a message for a while', () => {
    vi.useFakeTimers()
    const notice = useNotice()
    notice.done('saved')
    vi.advanceTimersByTime(10_000)
    expect(notice.message).toBe('')
    notice.failed(new Error('the name is taken'))
    vi.advanceTimersByTime(60_000)
    expect(notice.message).toBe('the name is taken')
    expect(notice.isError).toBe(true)
    notice.dismiss()
    expect(notice.message).toBe('')
    vi.useRealTimers()
  })

  it('tells of an undo that fails', async () => {
    const notice = useNotice()
    notice.done('deleted', () => Promise.reject(new Error('its name was taken meanwhile')))
    await notice.undo()
    expect(notice.isError).toBe(true)
    expect(notice.message).toContain('taken meanwhile')
  })
})

describe('day', () => {
  it('knows the usual day and goes back to it', () => {
    const day = useDay()
    expect(day.usual).toBe(true)
    day.today.wind_m_s = 4
    day.today.power = 0.9
    expect(day.usual).toBe(false)
    expect(day.conditions).toMatchObject({ wind_m_s: 4, wind_from_deg: 0, power: 0.9, wet: false })
    day.reset()
    expect(day.usual).toBe(true)
  })
})

describe('bag choice', () => {
  it('is remembered by the browser', async () => {
    const choice = useBagChoice()
    expect(choice.bagId).toBeNull()
    choice.bagId = 3
    await nextTick()
    setActivePinia(createPinia())
    expect(useBagChoice().bagId).toBe(3)
    useBagChoice().bagId = null
    await nextTick()
    setActivePinia(createPinia())
    expect(useBagChoice().bagId).toBeNull()
  })

  it('does not trust what it finds', () => {
    localStorage.setItem('zinc-kite-bag', 'yes')
    expect(useBagChoice().bagId).toBeNull()
  })
})

describe('selection', () => {
  async function opened(at: string) {
    const router = createRouter({
      history: createMemoryHistory(),
      routes: [{ path: '/:rest*', component: {} }],
    })
    const pinia = createPinia()
    createApp({}).use(pinia).use(router)
    setActivePinia(pinia)
    await router.push(at)
    return { router, selection: useSelection() }
  }
  const still = () => new Promise((resolve) => setTimeout(resolve, 20))

  it('is in the address, and going back closes it', async () => {
    const { router, selection } = await opened('/shelf?a=1')
    expect(selection.discId).toBeNull()
    selection.discId = 4
    await still()
    expect(router.currentRoute.value.fullPath).toBe('/shelf?a=1&disc=4')
    selection.discId = 7
    await still()
    expect(selection.discId).toBe(7)
    router.back()
    await still()
    expect([selection.discId, router.currentRoute.value.fullPath]).toEqual([null, '/shelf?a=1'])
  })

  it('prop: opened and closed, the history is as it was', async () => {
    const { router, selection } = await opened('/lines')
    await router.push('/shelf')
    for (const id of [3, 5, 9]) {
      selection.discId = id
      await still()
      selection.discId = null
      await still()
      expect(router.currentRoute.value.fullPath).toBe('/shelf')
    }
    router.back()
    await still()
    expect(router.currentRoute.value.path).toBe('/lines')
  })

  it('does not trust what it finds', async () => {
    for (const disc of ['no', '-1', '1.5', '']) {
      expect((await opened(`/?disc=${disc}`)).selection.discId).toBeNull()
    }
    const { router, selection } = await opened('/?disc=12')
    expect(selection.discId).toBe(12)
    // Opened by its address: there is nothing before it to go back to.
    selection.discId = null
    await still()
    expect(router.currentRoute.value.fullPath).toBe('/')
  })
})
