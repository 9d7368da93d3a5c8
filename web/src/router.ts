/** Addresses: the list of designs, and one page a step of an open design. */
import { createRouter, createWebHistory } from 'vue-router'

import CardPage from './card/CardPage.vue'
import DesignList from './designs/DesignList.vue'
import DesignShell from './shell/DesignShell.vue'
import { STEPS } from './steps/steps'

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', name: 'designs', component: DesignList },
    { path: '/designs/:id/card', name: 'card', component: CardPage },
    {
      path: '/designs/:id',
      component: DesignShell,
      children: [
        { path: '', redirect: (to) => ({ name: 'loads', params: to.params }) },
        ...STEPS.map((step) => ({ path: step.name, name: step.name, component: step.page })),
      ],
    },
    { path: '/:rest(.*)*', redirect: '/' },
  ],
})
