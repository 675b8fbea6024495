<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas } from '@/api/client'
import TermNote from '@/help/TermNote.vue'
import { longDay } from '@/parts/days'
import { capital, signed } from '@/parts/words'
import SpreadStrip from '@/plots/SpreadStrip.vue'

/** The qualities in the order in which they hold club speed back, each with its tests; the ones not ranked below. */
const chosen = defineModel<string | undefined>({ required: true })
const props = defineProps<{
  read: Schemas['Read']
  /** The tests a quality rests on, by quality. */
  tests: Map<string, Schemas['TestRead'][]>
  waiting: boolean
  playingSide?: 'left' | 'right' | undefined
}>()

const ranked = computed(() => props.read.qualities.filter((q) => q.status === 'ranked'))
const rest = computed(() => props.read.qualities.filter((q) => q.status !== 'ranked'))
const levels: Record<Schemas['QualityLevel'], string> = { lead: 'leads', build: 'build', keep: 'keep', spare: 'spare' }
const testsOf = (id: string) => props.tests.get(id) ?? []
</script>

<template>
  <div class="legend small quiet">
    <span><i class="swatch" /> target ± half a <TermNote term="spread">spread</TermNote></span>
    <span
      ><i class="dotf" /> <TermNote term="lead" :playing-side="props.playingSide">lead</TermNote>,
      <TermNote term="toward" :playing-side="props.playingSide">toward</TermNote>, or the one result</span
    >
    <span><i class="doto" /> trail or away</span>
    <span>whisker: the test's own <TermNote term="error">error</TermNote></span>
    <span class="right">Screen of {{ longDay(props.read.screenDate) }}</span>
  </div>
  <div class="test axis small quiet" aria-hidden="true">
    <span>spreads from target</span>
    <span class="scale"
      ><i v-for="n in 6" :key="n" :style="{ left: (n - 1) * 20 + '%' }">{{ signed(n - 4) }}</i></span
    >
  </div>
  <TransitionGroup name="move" tag="ol" class="qualities" :class="{ waiting: props.waiting }">
    <li v-for="q in ranked" :key="q.id" :class="{ on: q.id === chosen }">
      <button class="plain q" :aria-expanded="q.id === chosen" @click="chosen = q.id">
        <span class="rank num">{{ q.rank }}</span>
        <span class="name">{{ capital(q.name) }}</span>
        <span class="small sentence">{{ q.against }}</span>
        <span class="small level" :class="q.level">{{ levels[q.level] }}</span>
      </button>
      <p v-if="q.verdict === 'clear' && !read.leaders.includes(q.id)" class="small open">{{ q.sentence }}</p>
      <div v-for="t in testsOf(q.id)" :key="t.test" class="test">
        <span class="small">{{ t.name }}</span>
        <SpreadStrip :test="t" />
      </div>
    </li>
  </TransitionGroup>
  <section v-if="rest.length">
    <h2>Not ranked</h2>
    <ul class="qualities">
      <li v-for="q in rest" :key="q.id" :class="{ on: q.id === chosen }">
        <button class="plain q" @click="chosen = q.id">
          <span class="rank">–</span>
          <span class="name">{{ capital(q.name) }}</span>
          <span class="small sentence wide">{{ q.sentence }}</span>
        </button>
        <div v-for="t in testsOf(q.id)" :key="t.test" class="test">
          <span class="small">{{ t.name }}</span>
          <SpreadStrip :test="t" />
        </div>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.legend {
  display: flex;
  gap: 18px;
  align-items: center;
  flex-wrap: wrap;
}
.legend .right {
  margin-left: auto;
}
.swatch {
  display: inline-block;
  width: 22px;
  height: 12px;
  background: rgb(var(--v-theme-band));
}
.dotf,
.doto {
  display: inline-block;
  width: 10px;
  height: 10px;
  border-radius: 50%;
  border: 2px solid rgb(var(--v-theme-primary));
}
.dotf {
  background: rgb(var(--v-theme-primary));
}
.qualities {
  list-style: none;
  padding: 0;
  margin: 6px 0 16px;
}
.qualities.waiting {
  opacity: 0.6;
}
.qualities li {
  border-top: 1px solid rgb(var(--v-theme-line));
  padding: 4px 8px 6px;
}
.qualities li.on {
  background: rgb(var(--v-theme-surface));
  box-shadow: inset 3px 0 0 rgb(var(--v-theme-action));
}
.q {
  display: grid;
  grid-template-columns: 26px 170px 1fr 90px;
  width: 100%;
  align-items: baseline;
}
.rank {
  font-size: 1.1rem;
  font-weight: 700;
}
.name {
  font-weight: 650;
}
.sentence.wide {
  grid-column: span 2;
}
.test {
  display: grid;
  grid-template-columns: 196px minmax(240px, 480px);
  align-items: center;
}
.test > span {
  padding-left: 26px;
}
.axis {
  padding-left: 8px;
}
.scale {
  position: relative;
  height: 18px;
}
.scale i {
  position: absolute;
  font-style: normal;
  transform: translateX(-50%);
}
.level.lead,
.level.build {
  font-weight: 650;
}
.level.lead {
  color: rgb(var(--v-theme-action));
}
.level.keep,
.level.spare {
  opacity: 0.8;
}
.open {
  margin: 4px 0 0 26px;
  max-width: 780px;
}
@media (max-width: 700px) {
  .q {
    grid-template-columns: 26px 1fr 76px;
  }
  .sentence {
    grid-area: 2 / 2 / 3 / -1;
  }
  .test {
    grid-template-columns: 1fr;
  }
  .test.axis > span:first-child {
    display: none;
  }
}
.move-move {
  transition: transform 0.35s ease;
}
</style>
