import { createRouter, createWebHistory } from 'vue-router'
import BagPage from '@/bag/BagPage.vue'

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', component: BagPage, meta: { title: 'Bag' } },
    { path: '/lines', component: () => import('@/lines/LinesPage.vue'), meta: { title: 'Lines' } },
    { path: '/shelf', component: () => import('@/shelf/ShelfPage.vue'), meta: { title: 'Shelf' } },
    { path: '/shelf/moulds', component: () => import('@/shelf/MouldsPage.vue'), meta: { title: 'Moulds' } },
    { path: '/range', component: () => import('@/range/RangePage.vue'), meta: { title: 'Range' } },
    { path: '/player', component: () => import('@/player/PlayerPage.vue'), meta: { title: 'Player' } },
    { path: '/bags', component: () => import('@/bag/BagsPage.vue'), meta: { title: 'Bags' } },
    { path: '/ladder', component: () => import('@/bag/LadderPage.vue'), meta: { title: 'Distance ladder' } },
    { path: '/walk/:step?', component: () => import('@/walk/WalkPage.vue'), meta: { title: 'Walk' } },
    { path: '/build', component: () => import('@/build/BuildPage.vue'), meta: { title: 'Build' } },
    { path: '/season', component: () => import('@/season/SeasonPage.vue'), meta: { title: 'Season' } },
    { path: '/round', component: () => import('@/round/RoundPage.vue'), meta: { title: 'Round' } },
    { path: '/field', component: () => import('@/field/FieldPage.vue'), meta: { title: 'Field' } },
    { path: '/data', component: () => import('@/data/DataPage.vue'), meta: { title: 'Data' } },
    { path: '/:rest(.*)*', component: () => import('@/common/LostPage.vue'), meta: { title: 'Not found' } },
  ],
})

router.afterEach((to) => {
  document.title = `${String(to.meta.title)} · Zinc Kite`
})
