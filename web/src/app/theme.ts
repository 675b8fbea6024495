import type { ThemeDefinition } from 'vuetify'

/** The colours of Dunnock, in one place. Names are those of docs/guide.md. */
export const light: ThemeDefinition = {
  dark: false,
  colors: {
    background: '#FAF7F2',
    surface: '#FFFDF9',
    'surface-variant': '#EDE7DC',
    'on-background': '#1F2A33',
    'on-surface': '#1F2A33',
    primary: '#4B5D6B',
    secondary: '#6F4E37',
    action: '#A34E2E',
    'on-action': '#FFFFFF',
    moss: '#556B4A',
    warning: '#85590B',
    error: '#9E3B33',
    band: '#E4DCCB',
    line: '#D8D0C1',
  },
  variables: { 'medium-emphasis-opacity': 0.76, 'border-color': '#1F2A33', 'border-opacity': 0.14 },
}

export const dark: ThemeDefinition = {
  dark: true,
  colors: {
    background: '#171D22',
    surface: '#1F272D',
    'surface-variant': '#2C363E',
    'on-background': '#EFEAE0',
    'on-surface': '#EFEAE0',
    primary: '#A9BCCB',
    secondary: '#D3B497',
    action: '#E39A78',
    'on-action': '#1F1410',
    moss: '#A9C29B',
    warning: '#DDB35C',
    error: '#E79A92',
    band: '#39424A',
    line: '#3A444C',
  },
  variables: { 'medium-emphasis-opacity': 0.78, 'border-color': '#FFFFFF', 'border-opacity': 0.16 },
}

const KEPT = 'dunnock.theme'
/** On the page's root: the variables of the sheet that is made of these colours (web/theme.ts) hold below it. */
const DARK = 'v-theme--dark'

const wear = (isDark: boolean) => document.documentElement.classList.toggle(DARK, isDark)

/** Puts on the colours that were chosen on this device, the light ones at first. */
export function wearKept() {
  wear(localStorage.getItem(KEPT) === 'dark')
}

/** Changes between the light colours and the dark ones, and keeps what was chosen. */
export function flipTheme() {
  localStorage.setItem(KEPT, wear(!document.documentElement.classList.contains(DARK)) ? 'dark' : 'light')
}
