import '@fontsource-variable/atkinson-hyperlegible-next'
import 'vuetify/styles/core'
import 'virtual:theme.css'
import './app/app.css'

import { VueQueryPlugin } from '@tanstack/vue-query'
import { createPinia } from 'pinia'
import { createApp } from 'vue'
import { createVuetify } from 'vuetify'
import { aliases, mdi } from 'vuetify/iconsets/mdi-svg'

import { holdQuestions } from './api/ahead'
import { api, queryClient, unreached } from './api/client'
import App from './app/App.vue'
import { english } from './app/locale'
import { router } from './app/router'
import { wearKept } from './app/theme'
import { keptAnswers } from './offline/answers'
import { sayRefused } from './offline/refused'
import { afterDrawn } from './parts/turns'

// The program is there: nobody has to be told that it is on its way.
clearTimeout(window.opening)
wearKept()

const vuetify = createVuetify({
  icons: { defaultSet: 'mdi', aliases, sets: { mdi } },
  // The sheet of the themes is written when Dunnock is built.
  theme: false,
  locale: { adapter: english },
  defaults: {
    VBtn: { variant: 'text', rounded: 'sm', class: 'text-none' },
    VTextField: { variant: 'outlined', density: 'compact', hideDetails: 'auto' },
    VSelect: { variant: 'outlined', density: 'compact', hideDetails: 'auto' },
    VAutocomplete: { variant: 'outlined', density: 'compact', hideDetails: 'auto' },
    VCombobox: { variant: 'outlined', density: 'compact', hideDetails: 'auto' },
    VTextarea: { variant: 'outlined', density: 'compact', hideDetails: 'auto', rows: 2 },
    VCheckbox: { density: 'compact', hideDetails: true },
  },
})

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

// In a turn of its own: what was read so far took long enough.
setTimeout(() =>
  createApp(App).use(createPinia()).use(VueQueryPlugin, { queryClient }).use(vuetify).use(router).mount('#app'),
)
