<script setup lang="ts">
import { computed, ref, useId } from 'vue'

import { type Term, type TermName, terms } from './terms'

/** A word of ours that says what it means when it is pressed; with the golfer's own hands where it is about sides. */
const props = defineProps<{ term: TermName; playingSide?: 'left' | 'right' | undefined }>()
const term = computed<Term>(() => terms[props.term])
/** One who plays from the right has the target on the left hand. */
const right = computed(() => props.playingSide !== 'left')
const hands = computed(() => (right.value ? { lead: 'left', trail: 'right' } : { lead: 'right', trail: 'left' }))

const id = useId()
const note = ref<HTMLElement>()
const WIDTH = 330
/** Under the word, and within the window. */
function place(event: MouseEvent) {
  const at = (event.currentTarget as HTMLElement).getBoundingClientRect()
  if (!note.value) return
  note.value.style.left = `${Math.max(8, Math.min(at.left, innerWidth - WIDTH - 16))}px`
  note.value.style.top = `${Math.max(8, Math.min(at.bottom + 6, innerHeight - 280))}px`
}
</script>

<template>
  <button type="button" class="term" :popovertarget="id" aria-description="what it means" @click="place">
    <slot />
  </button>
  <div :id="id" ref="note" popover="auto" class="box note small" role="note">
    <strong>{{ term.title }}</strong>
    <p>{{ term.text }}</p>
    <template v-if="term.drawn">
      <svg
        viewBox="0 0 260 110"
        role="img"
        :aria-label="`Seen from above, playing from the ${right ? 'right' : 'left'}`"
      >
        <!-- Drawn for the left side; one who faces the ball from above it has the target on the other hand. -->
        <g :transform="right ? 'translate(260 0) scale(-1 1)' : ''">
          <path d="M92 88H18m8-6-8 6 8 6" class="line" />
          <circle cx="120" cy="88" r="4" class="ball" />
          <ellipse cx="134" cy="34" rx="30" ry="13" class="body" />
          <circle cx="134" cy="34" r="8" class="ball" />
          <ellipse v-if="term.drawn === 'sides'" cx="112" cy="56" rx="6" ry="11" class="lead" />
          <ellipse v-if="term.drawn === 'sides'" cx="156" cy="56" rx="6" ry="11" class="body" />
          <path v-else d="M168 52Q134 78 98 52m11 2-11-2 3 11" class="line" />
        </g>
        <text :x="right ? 242 : 18" y="108" :text-anchor="right ? 'end' : 'start'">target</text>
        <template v-if="term.drawn === 'sides'">
          <text :x="right ? 166 : 94" y="62" :text-anchor="right ? 'start' : 'end'">lead: {{ hands.lead }}</text>
          <text :x="right ? 90 : 170" y="62" :text-anchor="right ? 'end' : 'start'">trail: {{ hands.trail }}</text>
        </template>
        <text v-else :x="right ? 172 : 88" y="56" :text-anchor="right ? 'start' : 'end'">toward</text>
      </svg>
      <p class="quiet">
        {{
          term.drawn === 'sides'
            ? `Playing from the ${right ? 'right' : 'left'}: lead is the ${hands.lead}, trail the ${hands.trail}.`
            : `Playing from the ${right ? 'right' : 'left'}: toward is a turn to the ${hands.lead}, away to the ${hands.trail}.`
        }}
      </p>
    </template>
  </div>
</template>

<style scoped>
.term {
  font: inherit;
  color: inherit;
  background: none;
  border: 0;
  padding: 2px 0;
  cursor: help;
  text-decoration: underline dotted;
  text-underline-offset: 3px;
}
.note {
  position: fixed;
  margin: 0;
  width: 330px;
  border: 1px solid rgb(var(--v-theme-line));
  background: rgb(var(--v-theme-surface));
  color: rgb(var(--v-theme-on-surface));
  text-align: left;
  font-weight: 400;
  white-space: normal;
}
.note:not(:popover-open) {
  display: none;
}
.note p {
  margin: 6px 0;
}
svg {
  width: 100%;
  color: inherit;
}
text {
  font-size: 13px;
  fill: currentcolor;
}
.line {
  fill: none;
  stroke: currentcolor;
  stroke-width: 2;
}
.body {
  fill: none;
  stroke: currentcolor;
  stroke-width: 2;
}
.lead,
.ball {
  fill: currentcolor;
}
</style>
