import { type Component, defineAsyncComponent } from 'vue'

/** A part that is fetched when it is first shown; what did not come is asked for again. */
export const late = <T extends Component>(loader: () => Promise<{ default: T }>) =>
  defineAsyncComponent({
    loader: () => loader().then((m) => m.default),
    onError: (_, retry, fail, tries) => (tries < 3 ? retry() : fail()),
  })
