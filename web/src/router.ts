import { createRouter, createWebHistory } from 'vue-router'
import BagPage from './pages/BagPage.vue'

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', component: BagPage, meta: { title: 'Bag' } },
    { path: '/lines', component: () => import('./pages/LinesPage.vue'), meta: { title: 'Lines' } },
    { path: '/shelf', component: () => import('./pages/ShelfPage.vue'), meta: { title: 'Shelf' } },
    { path: '/range', component: () => import('./pages/RangePage.vue'), meta: { title: 'Range' } },
    { path: '/player', component: () => import('./pages/PlayerPage.vue'), meta: { title: 'Player' } },
    { path: '/:rest(.*)*', component: () => import('./pages/LostPage.vue'), meta: { title: 'Not found' } },
  ],
})

router.afterEach((to) => {
  document.title = `${String(to.meta.title)} · Zinc Kite`
})
