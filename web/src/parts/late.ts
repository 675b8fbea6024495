import { type Component, defineAsyncComponent, defineComponent, h } from 'vue'

/** A part that is fetched when it is first shown; what did not come is asked for again. */
export const late = <T extends Component>(loader: () => Promise<{ default: T }>) =>
  defineAsyncComponent({
    loader: () => loader().then((m) => m.default),
    onError: (_, retry, fail, tries) => (tries < 3 ? retry() : fail()),
  })

/**
 * A dialog that is fetched, and made, when it opens for the first time: a page that only offers it waits for none of it.
 * It opens with `modelValue`, or with the property named.
 */
export function lateDialog<T extends Component>(loader: () => Promise<{ default: T }>, opens = 'modelValue'): T {
  const Real = late(loader) as Component
  return defineComponent({
    name: 'LateDialog',
    inheritAttrs: false,
    setup(_, { attrs, slots }) {
      let opened = false
      return () => {
        opened ||= !!attrs[opens]
        return opened ? h(Real, attrs, slots) : null
      }
    },
  }) as unknown as T
}

/** The dialog of the components' library, made when it opens for the first time. */
export const LateDialog = lateDialog(() => import('vuetify/components/VDialog').then((m) => ({ default: m.VDialog })))
