import { createRouter, createWebHistory } from 'vue-router'
import GearStep from './steps/gear/GearStep.vue'
import ListStep from './steps/list/ListStep.vue'
import PlanStep from './steps/plan/PlanStep.vue'
import SwapsStep from './steps/swaps/SwapsStep.vue'

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/gear', component: GearStep },
    { path: '/list', component: ListStep },
    { path: '/swaps', component: SwapsStep },
    { path: '/plan', component: PlanStep },
    { path: '/:rest(.*)*', redirect: '/gear' },
  ],
})
