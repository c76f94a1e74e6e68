import { createRouter, createWebHistory } from 'vue-router'
import FilesPage from './steps/gear/FilesPage.vue'
import GearStep from './steps/gear/GearStep.vue'
import HistoryPage from './steps/gear/HistoryPage.vue'
import ListStep from './steps/list/ListStep.vue'
import PlanStep from './steps/plan/PlanStep.vue'
import SwapsStep from './steps/swaps/SwapsStep.vue'
import WeighStep from './steps/weigh/WeighStep.vue'

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/weigh', component: WeighStep },
    { path: '/gear', component: GearStep },
    { path: '/gear/files', component: FilesPage },
    { path: '/gear/history', component: HistoryPage },
    { path: '/list', component: ListStep },
    { path: '/swaps', component: SwapsStep },
    { path: '/plan', component: PlanStep },
    { path: '/:rest(.*)*', redirect: '/weigh' },
  ],
})
