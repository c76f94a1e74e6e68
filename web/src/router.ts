import { createRouter, createWebHistory, type RouteRecordRaw } from 'vue-router'

// A list is an address: each step stands under its list's, and bare while no list is chosen. Loaded when it is opened.
const steps: RouteRecordRaw[] = [
  { path: 'weigh', component: () => import('./steps/weigh/WeighStep.vue'), meta: { title: 'Weigh' } },
  { path: 'gear', component: () => import('./steps/gear/GearStep.vue'), meta: { title: 'Gear' } },
  { path: 'gear/files', component: () => import('./steps/gear/FilesPage.vue'), meta: { title: 'Files' } },
  {
    path: 'gear/history',
    component: () => import('./steps/gear/HistoryPage.vue'),
    meta: { title: 'History' },
  },
  { path: 'list', component: () => import('./steps/list/ListStep.vue'), meta: { title: 'List' } },
  { path: 'list/trip', component: () => import('./steps/list/TripPage.vue'), meta: { title: 'Trip' } },
  {
    path: 'list/together',
    component: () => import('./steps/list/TogetherPage.vue'),
    meta: { title: 'Together' },
  },
  {
    path: 'list/compare',
    component: () => import('./steps/list/ComparePage.vue'),
    meta: { title: 'Compare' },
  },
  { path: 'swaps', component: () => import('./steps/swaps/SwapsStep.vue'), meta: { title: 'Swaps' } },
  { path: 'pack', component: () => import('./steps/pack/PackStep.vue'), meta: { title: 'Pack' } },
  { path: 'trips', component: () => import('./steps/trips/TripsStep.vue'), meta: { title: 'Trips' } },
  {
    path: 'trips/:trip',
    component: () => import('./steps/trips/TripPage.vue'),
    meta: { title: 'Trip' },
  },
  { path: 'year', component: () => import('./steps/year/YearStep.vue'), meta: { title: 'Year' } },
  { path: 'plan', component: () => import('./steps/plan/PlanStep.vue'), meta: { title: 'Plan' } },
]

export const router = createRouter({
  history: createWebHistory(),
  // Back is where it was; another page begins at its top.
  scrollBehavior: (to, from, saved) => saved ?? (to.path === from.path ? false : { top: 0 }),
  routes: [
    { path: '/lists/:list', redirect: (to) => `${to.path}/list` },
    ...steps.map((step) => ({ ...step, path: `/lists/:list/${step.path}`, props: true })),
    ...steps.map((step) => ({ ...step, path: `/${step.path}`, props: { list: '' } })),
    { path: '/:rest(.*)*', redirect: '/weigh' },
  ] as RouteRecordRaw[],
})
