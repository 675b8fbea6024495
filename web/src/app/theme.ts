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
