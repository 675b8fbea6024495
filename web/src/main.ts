import '@fontsource-variable/atkinson-hyperlegible-next'
import 'vuetify/styles/core'
import 'virtual:theme.css'
import './app/app.css'

import { VueQueryPlugin } from '@tanstack/vue-query'
import { createPinia } from 'pinia'
import { createApp } from 'vue'

import { holdQuestions } from './api/ahead'
import { api, queryClient, unreached } from './api/client'
import { router } from './app/router'
import { wearKept } from './app/theme'
import { keptAnswers } from './offline/answers'
import { sayRefused } from './offline/refused'
import { afterDrawn } from './parts/turns'

wearKept()

// What every page stands in is read in a turn of its own.
const frame = import('./app/frame')

api.use(keptAnswers)
unreached.tell = sayRefused

// The page the address asks for is made ready while its questions are on their way.
queueMicrotask(() => {
  for (const { components } of router.resolve(location.pathname + location.search).matched) {
    const view = components?.default as unknown
    if (typeof view === 'function') void (view as () => Promise<unknown>)().catch(() => undefined)
  }
})

// What a page shows is asked for once its frame and its heading are drawn.
const letGo = holdQuestions()
const ready = () => afterDrawn(letGo)
void router.isReady().then(ready, ready)

void Promise.all([frame, window.styled]).then(([{ App, vuetify }]) =>
  setTimeout(() => {
    // The program is there: nobody has to be told that it is on its way.
    clearTimeout(window.opening)
    createApp(App).use(createPinia()).use(VueQueryPlugin, { queryClient }).use(vuetify).use(router).mount('#app')
  }),
)
