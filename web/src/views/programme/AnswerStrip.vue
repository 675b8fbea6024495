<script setup lang="ts">
import { computed, ref } from 'vue'

import type { Schemas } from '@/api/client'
import TermNote from '@/help/TermNote.vue'
import { capital } from '@/parts/words'

/** What a week is asked for beside what it gives, quality by quality: a band for what is wanted, a bar a week for what is given. */
const props = defineProps<{ answer: Schemas['Answer'][]; unanswered: Schemas['Unanswered'][] }>()

const all = ref(false)
const first = computed(() => props.answer.filter((a) => a.level === 'lead' || a.level === 'build' || !a.met))
const rest = computed(() => props.answer.filter((a) => !first.value.includes(a) && a.doseWanted > 0))
const rows = computed(() => (all.value ? [...first.value, ...rest.value] : first.value))

const words: Record<Schemas['QualityLevel'], string> = {
  lead: 'leads',
  build: 'built',
  keep: 'kept up',
  spare: 'spared',
}
const top = (a: Schemas['Answer']) => Math.max(a.doseHigh, ...a.dosePerWeek, 1) * 1.05
const left = (a: Schemas['Answer'], v: number) => `${(100 * v) / top(a)}%`
const band = (a: Schemas['Answer']) => ({
  left: left(a, a.doseWanted),
  width: `${(100 * Math.max(a.doseHigh - a.doseWanted, 0)) / top(a)}%`,
})
const said = (a: Schemas['Answer']) =>
  `${capital(a.name)}, ${words[a.level]}: wanted ${a.doseWanted} to ${a.doseHigh} ${a.unitWords}, given ${a.dosePerWeek.join(', ')} week by week; ${a.met ? 'met' : 'not met'}`
const share = (a: Schemas['Answer']) => Math.round(Math.min(...a.sharePerWeek.slice(0, -1)))
</script>

<template>
  <section v-if="props.answer.length" class="strip" aria-label="Asked and given">
    <div class="row spread">
      <h2>Asked and given</h2>
      <span class="small quiet"><TermNote term="levels">leads, build, keep</TermNote></span>
      <span class="small quiet"><i class="key" /> wanted a week <i class="bar key2" /> given, one bar a week</span>
    </div>
    <p v-if="!props.answer.some((a) => a.level === 'lead')" class="small">
      Nothing leads: an even mix, and every floor is kept.
    </p>
    <ul>
      <li v-for="a in rows" :key="a.quality" :class="[a.level, { unmet: !a.met }]" :aria-label="said(a)">
        <span class="name">{{ capital(a.name) }}</span>
        <span class="small level">{{ words[a.level] }}</span>
        <span class="plot" aria-hidden="true">
          <i class="band" :style="band(a)" />
          <i v-for="(d, i) in a.dosePerWeek" :key="i" class="bar" :style="{ width: left(a, d) }" />
        </span>
        <span class="small num"
          >{{ Math.min(...a.dosePerWeek.slice(0, -1)) }} of {{ a.doseWanted }} {{ a.unitWords
          }}<template v-if="a.shareWanted">, {{ share(a) }}% of the minutes</template></span
        >
        <span class="small held" :class="a.met ? 'good' : 'attention'">{{ a.met ? 'met' : a.held || 'not met' }}</span>
      </li>
    </ul>
    <p v-for="u in props.unanswered" :key="u.finding + u.why" class="small attention" data-testid="unanswered">
      {{ u.finding }} Not answered: {{ u.why }}
    </p>
    <button v-if="rest.length" class="plain small quiet" :aria-expanded="all" @click="all = !all">
      {{ all ? 'Fewer' : `${rest.length} more are kept up, as asked` }}
    </button>
  </section>
</template>

<style scoped>
.strip {
  border-top: 1px solid rgb(var(--v-theme-line));
  padding: 6px 0;
  margin-bottom: 8px;
}
ul {
  list-style: none;
  padding: 0;
  margin: 4px 0;
}
.plain.small {
  font-size: var(--small);
}
li {
  display: grid;
  grid-template-columns: 140px 64px minmax(120px, 220px) minmax(180px, auto) 1fr;
  gap: 10px;
  align-items: center;
  padding: 2px 0;
}
.lead .name {
  font-weight: 700;
}
.build .name {
  font-weight: 600;
}
.plot {
  position: relative;
  height: 22px;
  display: flex;
  flex-direction: column;
  justify-content: space-evenly;
}
.band,
.key {
  background: rgb(var(--v-theme-band));
}
.band {
  position: absolute;
  top: 0;
  bottom: 0;
  border-left: 2px solid rgba(var(--v-theme-on-surface), 0.5);
}
.bar {
  position: relative;
  height: 3px;
  background: rgb(var(--v-theme-primary));
}
.unmet .bar {
  background: rgb(var(--v-theme-error));
}
.key,
.key2 {
  display: inline-block;
  width: 18px;
  height: 10px;
}
.key2 {
  height: 3px;
  vertical-align: middle;
  margin-left: 10px;
}
@media (max-width: 900px) {
  li {
    grid-template-columns: 120px 56px minmax(80px, 140px) minmax(0, 1fr);
  }
}
@media (max-width: 560px) {
  li {
    grid-template-columns: 1fr auto;
  }
  .plot,
  .held {
    grid-column: 1 / -1;
  }
}
</style>
