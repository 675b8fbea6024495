import type { Plugin } from 'vite'
import { createVuetify } from 'vuetify'

import { dark, light } from './src/app/theme.ts'

const NAME = 'virtual:theme.css'

/** The style sheet of both themes, as the components' library writes it: variables, and classes of colours. */
export function themeStyles(): string {
  return createVuetify({ theme: { defaultTheme: 'light', themes: { light, dark } } }).theme.styles.value
}

/** Gives the style sheet of the themes as `virtual:theme.css`: it is written when Dunnock is built, not on every page. */
export function themeSheet(): Plugin {
  return {
    name: 'dunnock-theme',
    resolveId: (id) => (id === NAME ? `\0${NAME}` : undefined),
    load: (id) => (id === `\0${NAME}` ? themeStyles() : undefined),
  }
}
