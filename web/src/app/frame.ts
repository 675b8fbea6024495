import { createVuetify } from 'vuetify'
import { aliases, mdi } from 'vuetify/iconsets/mdi-svg'

import App from './App.vue'
import { english } from './locale'

/** What every page stands in, and the library its components are of: read in a turn of its own. */
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

export { App, vuetify }
