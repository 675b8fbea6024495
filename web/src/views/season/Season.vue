<script setup lang="ts">
import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'

import { api, must, type Schemas } from '@/api/client'
import { keys } from '@/api/keys'
import { useSession } from '@/api/queries'
import { dayAndYear, longDay } from '@/parts/days'
import ReasonRail from '@/parts/ReasonRail.vue'
import { capital } from '@/parts/words'
import SeasonPlot from '@/plots/SeasonPlot.vue'
import AwaySection from '@/views/intake/AwaySection.vue'
import CompetitionsSection from '@/views/intake/CompetitionsSection.vue'
import PlayingSection from '@/views/intake/PlayingSection.vue'
import { useIntake } from '@/views/intake/useIntake'

import CalendarSection from './CalendarSection.vue'
import MarksSection from './MarksSection.vue'
import { InTurns } from '@/parts/InTurns'
import { useTurns } from '@/parts/turns'

/** The golfer's season: blocks worked backwards from what is peaked for, and the dates they follow from. */
const props = defineProps<{ id: string }>()
const { data: session } = useSession()
const { golfer, form, wrong, conflict, reload, before, takeBack } = useIntake(props.id)
const { data: season, error } = useQuery({
  queryKey: keys.season(() => props.id),
  queryFn: () => must(api.GET('/athletes/{athleteId}/season', { params: { path: { athleteId: props.id } } })),
  placeholderData: keepPreviousData,
  retry: false,
})
/** A moved date is saved a moment later; what follows from it is asked for then. */
const at = ref(0)
watch(
  () => season.value?.blocks.length,
  (n) => {
    if (n !== undefined && at.value >= n) at.value = 0
  },
)
/** Drawn so far: the season, what is said of it, its blocks, the dates they are made of. */
const drawn = useTurns(() => (season.value && form.value && session.value ? 4 : 0))
const block = computed(() => season.value?.blocks[at.value])
function move(i: number, date: string) {
  const c = form.value?.competitions[i]
  if (c) c.date = date
}
/** The season as it is laid out now becomes the one that is kept: a fact like any other, which Undo takes back. */
function keep() {
  if (form.value && season.value)
    form.value.situation.kept = JSON.parse(JSON.stringify(season.value.laid)) as Schemas['LaidSeason']
}
/** A block of so many weeks from its Monday, set by the coach: what follows is laid around it. */
function setWeeks(i: number, weeks: number) {
  const b = season.value?.blocks[i]
  if (!b || !form.value) return
  const others = form.value.situation.locks.filter((l) => l.start !== b.start)
  form.value.situation.locks = [...others, { start: b.start, weeks: Math.min(Math.max(weeks, 1), 8) }]
}
function free(i: number) {
  const b = season.value?.blocks[i]
  if (b && form.value) form.value.situation.locks = form.value.situation.locks.filter((l) => l.start !== b.start)
}
/** What a press on the season does: drop a competition, or mark days away; the rows below are the other way. */
const tool = ref<'' | 'event' | 'away'>('')
function dropEvent(date: string) {
  form.value?.competitions.push({ date, name: 'Match', peak: false })
  tool.value = ''
}
function markAway(from: string, to: string) {
  form.value?.situation.away.push({ from, to, why: '' })
  tool.value = ''
}
const maySet = (b: Schemas['SeasonBlock'] | undefined) => b?.kind === 'block' && !b.begun
const kinds: Record<string, string> = {
  block: '',
  'lead-in': 'lead-in',
  event: 'event week',
  after: 'after the event',
  bridge: 'bridge',
  hold: 'hold',
  transition: 'transition',
  break: 'away',
  return: 'way back',
}
const rowWords = (b: Schemas['SeasonBlock']) => b.rows.map((r) => (/^\d$/.test(r) ? `rising ${r}` : r)).join(', ')
const title = (b: Schemas['SeasonBlock']) =>
  `${kinds[b.kind] ? capital(kinds[b.kind] ?? '') : `${b.rows.length}-week block`}${b.peak ? ` to ${b.peak}` : ''}`
</script>

<template>
  <div class="split">
    <div class="sheet">
      <h1>Season</h1>
      <p v-if="conflict" class="stop" role="alert">
        {{ conflict }} <v-btn color="action" @click="reload">Load again</v-btn>
      </p>
      <p v-if="error" class="stop" role="alert">
        {{ error.message }}
        <router-link :to="{ name: 'intake', params: { id: props.id } }">Intake</router-link>
      </p>
      <template v-if="season && form && session">
        <SeasonPlot
          :season="season"
          :events="form.competitions"
          :away="form.situation.away"
          :today="session.today"
          :marks="form.situation.marks"
          :at="at"
          @move="move"
          @choose="at = $event"
          :tool="tool"
          @weeks="setWeeks"
          @drop-event="dropEvent"
          @mark-away="markAway"
        />
        <div class="row small no-print">
          <v-btn
            size="small"
            :variant="tool === 'event' ? 'flat' : 'outlined'"
            :aria-pressed="tool === 'event'"
            @click="tool = tool === 'event' ? '' : 'event'"
            >Drop a competition</v-btn
          >
          <v-btn
            size="small"
            :variant="tool === 'away' ? 'flat' : 'outlined'"
            :aria-pressed="tool === 'away'"
            @click="tool = tool === 'away' ? '' : 'away'"
            >Mark days away</v-btn
          >
          <span v-if="tool" class="quiet">{{
            tool === 'event' ? 'Press on the season, on its day.' : 'Drag over the days on the season.'
          }}</span>
        </div>
        <template v-if="drawn > 1">
          <div v-if="!season.kept" class="keep small no-print">
            <v-btn size="small" variant="outlined" @click="keep">Keep this season</v-btn>
            <span class="quiet"
              >Dates that change later are then laid around it, and what they change is shown first.</span
            >
          </div>
          <div v-else-if="season.changes.length" class="keep attention no-print" data-testid="changes">
            <strong>These dates change the season you keep:</strong>
            <ul class="small">
              <li v-for="c in season.changes" :key="c">{{ c }}</li>
            </ul>
            <v-btn size="small" variant="flat" color="action" @click="keep">Keep it so</v-btn>
            <v-btn size="small" variant="outlined" :disabled="before.length === 0" @click="takeBack"
              >Take the last date back</v-btn
            >
          </div>
          <p class="small quiet no-print">
            <a :href="`/api/v1/athletes/${props.id}/season.pdf?paper=a4`" download>On paper, A4</a>,
            <a :href="`/api/v1/athletes/${props.id}/season.pdf?paper=a5`" download>A5</a>,
            <a :href="`/api/v1/athletes/${props.id}/season.pdf?paper=letter`" download>letter</a>. Drag a pennant, or
            move it with the arrow keys, Shift for a week: the blocks follow. Drag a block's end to set its weeks. The
            next block is exact when it is drafted; later ones are pencilled, and exact after their retest.
          </p>
          <ul v-if="season.notes.length" class="small attention" data-testid="season-notes">
            <li v-for="n in season.notes" :key="n">{{ n }}</li>
          </ul>
        </template>
        <table v-if="drawn > 2" class="blocks" data-testid="blocks">
          <thead>
            <tr>
              <th>When</th>
              <th>What</th>
              <th>Part of the year</th>
              <th>Leads</th>
              <th>Built</th>
              <th>Retest</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(b, i) in season.blocks" :key="b.start" :class="{ on: i === at }" @click="at = i">
              <td>{{ longDay(b.start) }} to {{ longDay(b.end) }}</td>
              <td>
                <button class="plain" @click="at = i">{{ title(b) }}</button>
              </td>
              <td>{{ b.phase.replace('-', ' ') }}</td>
              <td>{{ b.leads.join(' and ') || '–' }}</td>
              <td>{{ b.builds.join(', ') || '–' }}</td>
              <td class="num">{{ b.retest ? longDay(b.retest) : '–' }}</td>
            </tr>
          </tbody>
        </table>
        <div v-if="drawn > 3" class="facts no-print">
          <InTurns>
            <CompetitionsSection v-model="form" :today="session.today" :wrong="wrong" />
            <AwaySection v-model="form" :today="session.today" :wrong="wrong" />
            <PlayingSection v-model="form" :today="session.today" :wrong="wrong" />
            <MarksSection v-model="form" :today="session.today" :wrong="wrong" />
            <v-text-field
              v-model="form.situation.seasonEnd"
              label="Planned to (empty: two weeks behind the last peak)"
              type="date"
              class="end"
              :error-messages="wrong['seasonEnd']"
            />
            <CalendarSection :id="props.id" />
          </InTurns>
        </div>
      </template>
    </div>
    <Teleport defer to="#foot-actions">
      <v-btn size="small" :disabled="before.length === 0" @click="takeBack">Undo</v-btn>
    </Teleport>
    <ReasonRail :title="block ? title(block) : 'Season'">
      <template v-if="block">
        <p class="small">{{ longDay(block.start) }} to {{ dayAndYear(block.end) }}: {{ rowWords(block) }}.</p>
        <p class="small" data-testid="block-why">{{ block.why }}</p>
        <template v-if="block.wanted.length">
          <h3>Wanted a week</h3>
          <ul class="plain-list small">
            <li v-for="w in block.wanted" :key="w">{{ capital(w) }}</li>
          </ul>
        </template>
        <template v-if="block.sessions.length && !block.begun">
          <h3>Sessions a week</h3>
          <ul class="plain-list small" data-testid="sessions">
            <li v-for="(s, i) in block.sessions" :key="i">
              <strong>{{ s.letter }}</strong> {{ s.title }}
            </li>
          </ul>
        </template>
        <div v-if="maySet(block)" class="row small weeks">
          <label :for="`weeks-${at}`">Weeks</label>
          <input
            :id="`weeks-${at}`"
            type="number"
            min="1"
            max="8"
            :value="block.rows.length"
            @change="setWeeks(at, Number(($event.target as HTMLInputElement).value))"
          />
          <v-btn v-if="block.locked" size="small" variant="outlined" @click="free(at)">Let it follow the dates</v-btn>
          <v-btn v-else size="small" variant="outlined" @click="setWeeks(at, block.rows.length)">Lock it</v-btn>
        </div>
        <p v-if="block.locked" class="small quiet">You set it: dates that change leave it as it is.</p>
        <p v-if="at === 0" class="small">
          <router-link :to="{ name: 'programme', params: { id: props.id } }">Draft or look at this block</router-link>
        </p>
        <p v-else class="small quiet">
          {{ block.school }}. Rules that need exercises: not checked while it is pencilled.
        </p>
      </template>
      <p v-else-if="golfer" class="small quiet">Choose a block to see why it stands there.</p>
    </ReasonRail>
  </div>
</template>

<style scoped>
.blocks {
  border-collapse: collapse;
  width: 100%;
  margin: 12px 0;
}
.blocks th,
.blocks td {
  text-align: left;
  padding: 5px 12px 5px 4px;
  border-bottom: 1px solid rgba(var(--v-theme-on-surface), 0.1);
  vertical-align: top;
}
.blocks tr.on td {
  background: rgb(var(--v-theme-surface));
  box-shadow: inset 0 -2px 0 rgb(var(--v-theme-action));
}
.facts {
  display: grid;
  gap: 16px;
  max-width: 820px;
}
.end {
  max-width: 420px;
}
.keep {
  margin: 8px 0;
}
.keep .v-btn {
  margin-right: 8px;
}
.keep ul {
  margin: 4px 0 8px;
}
.weeks input {
  font: inherit;
  color: inherit;
  width: 56px;
  padding: 3px 6px;
  background: transparent;
  border: 1px solid rgb(var(--v-theme-line));
}
.plain-list {
  list-style: none;
  padding: 0;
  margin: 4px 0;
}
@media (max-width: 760px) {
  .blocks th:nth-child(n + 3):not(:last-child),
  .blocks td:nth-child(n + 3):not(:last-child) {
    display: none;
  }
  .blocks th,
  .blocks td {
    padding-right: 6px;
  }
}
</style>
