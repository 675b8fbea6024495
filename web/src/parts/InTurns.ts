import {
  Comment,
  computed,
  defineComponent,
  Fragment,
  type FunctionalComponent,
  h,
  onMounted,
  onUpdated,
  ref,
  type VNode,
} from 'vue'

import { useTurns } from './turns'

/** What stands in a slot, one by one, each under a name that stays its own whatever comes and goes beside it. */
function parts(nodes: VNode[], within = ''): { key: string; node: VNode }[] {
  return nodes.flatMap((node, i) => {
    const key = `${within}/${String(node.key ?? i)}`
    if (node.type === Fragment && Array.isArray(node.children)) return parts(node.children as VNode[], key)
    return node.type === Comment ? [] : [{ key, node }]
  })
}

interface PartProps {
  there: () => boolean
  room: Record<string, unknown> | undefined
}
/** One part, or room for it until it is its turn. What is drawn already is the same as before, and not looked at again. */
const Part: FunctionalComponent<PartProps> = (props, { slots }) =>
  props.there() ? slots.default?.() : props.room && h('div', props.room)
Part.props = ['there', 'room']

/**
 * Draws what stands in it one after the other, each in its turn: for forms of many fields. `place`
 * keeps room for each that is not there yet, in px, so that nothing beneath moves. What comes later, once all are
 * there, is drawn at once.
 */
export const InTurns = defineComponent({
  name: 'InTurns',
  props: { place: { type: Number, default: 0 } },
  setup(props, { slots }) {
    const count = ref(0)
    const drawn = useTurns(() => count.value, { first: 0 })
    /** Of the parts that are there, the last is drawn: from then on all are, at once. */
    const over = computed<boolean>((was) => was === true || (count.value > 0 && drawn.value >= count.value))
    let now = 0
    const counted = () => (count.value = now)
    onMounted(counted)
    onUpdated(counted)
    return () => {
      const all = parts(slots.default?.() ?? [])
      now = all.length
      return all.map(({ key, node }, i) => {
        const there = () => over.value || i < drawn.value
        const room = props.place
          ? { class: ['not-yet', node.props?.class as unknown], style: { minHeight: `${props.place}px` } }
          : undefined
        return h(Part, { key, there, room }, () => node)
      })
    }
  },
})
