import './styles/reset.css'
import '@fontsource-variable/atkinson-hyperlegible-mono'
import '@fontsource-variable/atkinson-hyperlegible-next'
import './styles/base.css'

import { createPinia } from 'pinia'
import { createApp } from 'vue'

import App from './App.vue'
import { router } from './router'
import { fetchAllPages } from './steps/steps'
import { vuetify } from './styles/vuetify'

createApp(App).use(createPinia()).use(router).use(vuetify).mount('#app')

void router.isReady().then(() => requestIdleCallback(fetchAllPages))
