import {
  type AsyncComponentOptions,
  type Component,
  defineAsyncComponent,
  defineComponent,
  h,
  nextTick,
  onBeforeUnmount,
  ref,
  shallowRef,
  watch,
} from 'vue'

import { unreached } from '@/api/client'

/** What did not come is asked for again. */
const onError: AsyncComponentOptions['onError'] = (_, retry, fail, tries) => (tries < 3 ? retry() : fail())

/** A part that is fetched when it is first shown. */
export const late = <T extends Component>(loader: () => Promise<{ default: T }>) =>
  defineAsyncComponent({ loader: () => loader().then((m) => m.default), onError })

/** A field that is fetched when it is first shown; its room is kept meanwhile. */
export const lateField = <T extends Component>(loader: () => Promise<T>): T =>
  defineAsyncComponent({
    loader,
    onError,
    delay: 0,
    loadingComponent: () => h('div', { class: 'not-yet', style: { minHeight: '40px' } }),
  })

/** Fields of the components' library that open a list over the page: a form does not wait for them. */
export const LateAutocomplete = lateField(() => import('vuetify/components/VAutocomplete').then((m) => m.VAutocomplete))
export const LateCombobox = lateField(() => import('vuetify/components/VCombobox').then((m) => m.VCombobox))
export const LateSelect = lateField(() => import('vuetify/components/VSelect').then((m) => m.VSelect))

/** Longer no dialog takes the keys while it is fetched: on a line that hangs the page goes on answering. */
const HELD_MS = 2000

/** What is typed is not for the page beneath while a dialog is on its way. Returns what ends it. */
function holdKeys(): () => void {
  const hold = (event: KeyboardEvent) => {
    event.preventDefault()
    event.stopPropagation()
  }
  document.addEventListener('keydown', hold, true)
  const letGo = () => document.removeEventListener('keydown', hold, true)
  setTimeout(letGo, HELD_MS)
  return letGo
}

/** What a property that opens a dialog is while the dialog is closed. */
function closed(open: unknown): unknown {
  if (typeof open === 'boolean') return false
  return typeof open === 'string' ? '' : undefined
}

/** Says that a dialog could not be fetched, and closes it: it is asked for again at the next try. */
function giveUp(attrs: Record<string, unknown>) {
  unreached.tell('This part of Dunnock could not be fetched. Check the connection; nothing typed is lost.')
  for (const [name, value] of Object.entries({ 'onUpdate:modelValue': false, onClose: undefined })) {
    const listener = attrs[name] as ((value: unknown) => void) | undefined
    listener?.(value)
  }
}

/** After this long a page is read, and a dialog that keys open is fetched before they do. */
const SOON_MS = 3000

/**
 * A dialog that is fetched, and made, when it opens for the first time: a page that only offers it waits for none of it.
 * It opens with `modelValue`, or with the property named; with `soon` it is fetched once the page has come to rest. It
 * is made closed, and opens then: what it does as it opens, it does the first time too.
 */
export function lateDialog<T extends Component>(
  loader: () => Promise<{ default: T }>,
  o: { opens?: string; soon?: boolean } = {},
): T {
  const opens = o.opens ?? 'modelValue'
  const real = shallowRef<T>()
  let coming: Promise<void> | undefined
  const load = () =>
    (coming ??= loader().then(
      (m) => void (real.value = m.default),
      () => void (coming = undefined),
    ))
  return defineComponent({
    name: 'LateDialog',
    inheritAttrs: false,
    props: { [opens]: { type: null, default: undefined } },
    setup(props: Record<string, unknown>, { attrs, slots }) {
      const asked = ref(false)
      const made = ref(false)
      watch(
        () => !!props[opens],
        async (open) => {
          if (!open || made.value) return
          const letGo = holdKeys()
          await load()
          asked.value = real.value !== undefined
          await nextTick()
          made.value = asked.value
          if (!made.value) giveUp(attrs)
          setTimeout(letGo)
        },
        { immediate: true },
      )
      if (o.soon) {
        const timer = setTimeout(() => void load(), SOON_MS)
        onBeforeUnmount(() => clearTimeout(timer))
      }
      return () => {
        if (!real.value || !asked.value) return null
        return h(
          real.value as Component,
          { ...attrs, [opens]: made.value ? props[opens] : closed(props[opens]) },
          slots,
        )
      }
    },
  }) as unknown as T
}

/** The dialog of the components' library, made when it opens for the first time. */
export const LateDialog = lateDialog(() => import('vuetify/components/VDialog').then((m) => ({ default: m.VDialog })))
