<script setup lang="ts">
import { useQueryClient } from '@tanstack/vue-query'
import { computed, watch } from 'vue'

import { api, must, type Schemas } from '@/api/client'
import { keys } from '@/api/keys'
import { useChanges } from '@/api/queries'
import { ageWords } from '@/offline/age'
import { keep, useKept } from '@/offline/kept'
import { useUpdate } from '@/offline/update'
import EmptyState from '@/parts/EmptyState.vue'
import { longDay } from '@/parts/days'
import { fetchSession, sessionName, stripSession } from '@/views/floor/session'

type Note = Schemas['TodayNote']
const client = useQueryClient()
const update = useUpdate()
const { data, error, keptAt } = useKept({
  key: keys.today(),
  name: () => 'today',
  fetch: () => must(api.GET('/today')),
})
useChanges(() => void client.invalidateQueries({ queryKey: keys.today() }))

const day = computed(() => data.value?.days.find((d) => d.date === data.value?.date))
const others = computed(
  () => data.value?.days.filter((d) => d.date !== data.value?.date && (d.sessions.length || d.notes.length)) ?? [],
)
const classesOn = (date: string) => data.value?.classes.filter((c) => c.date === date) ?? []
const words = { '': '', running: 'under way', done: 'done', stopped: 'broken off', missed: 'let go' } as const
const state = (r: Schemas['TodayRow']) =>
  r.state ? words[r.state] + (r.effort != null ? `, effort ${r.effort}` : '') : r.missed ? 'nothing noted' : ''
const kinds: Record<string, string> = {
  plays: 'plays',
  screen: 'screens',
  retest: 'retests',
  mark: '',
  dose: 'Next dose',
  due: '',
  done: 'Logged',
  stopped: 'Broken off',
  missed: 'Let go',
}
/** What is noted, after the name of whom it is about. */
const said = (n: Note) => (n.athleteId ? `${kinds[n.kind]} ${n.text}` : n.text).trim()
const to = (n: Note) => {
  if (!n.athleteId) return { name: 'days' }
  if (n.kind === 'dose' || n.kind === 'done' || n.kind === 'stopped')
    return { name: 'floor', params: { id: n.athleteId } }
  if (n.kind === 'retest') return { name: 'screen', params: { id: n.athleteId } }
  if (n.kind === 'due') return { name: n.text.startsWith('Intake') ? 'intake' : 'read', params: { id: n.athleteId } }
  return { name: 'season', params: { id: n.athleteId } }
}

/** Today's sessions are kept on the device, so that they open on the floor without a network. */
let fetched = ''
watch(
  day,
  async (d) => {
    if (!d || keptAt.value || fetched === d.date || update.cannot) return
    fetched = d.date
    for (const r of d.sessions.filter((x) => !x.state).slice(0, 60)) {
      try {
        const s = await fetchSession(r.athleteId, r.session)
        await keep(sessionName(r.athleteId, r.session), stripSession(s))
      } catch {
        fetched = ''
        return
      }
    }
  },
  { immediate: true },
)
</script>

<template>
  <div class="sheet today">
    <div class="row spread">
      <h1>Today{{ data ? `, ${longDay(data.date)}` : '' }}</h1>
      <v-btn variant="flat" color="action" :to="{ name: 'plan-class' }">Plan a class…</v-btn>
    </div>
    <p v-if="keptAt" class="attention" role="status">No connection: this is as it was {{ ageWords(keptAt) }}.</p>
    <p v-if="update.cannot" class="small quiet">{{ update.cannot }}</p>
    <p v-if="error" class="stop" role="alert">{{ error.message }}</p>

    <EmptyState
      v-if="day && !day.sessions.length && !day.notes.length && !classesOn(day.date).length"
      title="Nobody trains today"
      text="Sessions of issued programmes stand here on their day, with classes, competitions and screen days."
    />
    <ul v-if="day" class="now">
      <li v-for="c in classesOn(day.date)" :key="c.id">
        <router-link :to="{ name: 'class', params: { classId: c.id } }" class="open">
          <span class="time num">{{ c.start }}</span>
          <span class="who">{{ c.name }}</span>
          <span>Class of {{ c.golfers }}</span>
          <span class="state" />
        </router-link>
      </li>
      <li
        v-for="r in day.sessions"
        :key="r.athleteId + r.session"
        :class="{ home: r.kind === 'home', over: r.state === 'done' }"
      >
        <router-link :to="{ name: 'run', params: { id: r.athleteId, sessionId: r.session } }" class="open">
          <span class="time num">{{ r.startsAt }}</span>
          <span class="who">{{ r.name }}</span>
          <span class="what"
            ><strong>{{ r.letter ? `${r.letter} · ` : '' }}{{ r.title }}</strong>
            <span class="quiet small items">{{ r.items.join(' · ') }}</span></span
          >
          <span class="state" :class="{ attention: r.state === 'running' }">{{
            state(r) || (r.minutes ? `${Math.round(r.minutes)} min` : '')
          }}</span>
        </router-link>
      </li>
      <li v-for="n in day.notes" :key="n.athleteId + n.kind + n.text">
        <router-link :to="to(n)" class="open">
          <span class="time" />
          <span class="who">{{ n.name || 'Screen day' }}</span>
          <span>{{ said(n) }}</span>
          <span class="state" />
        </router-link>
      </li>
    </ul>

    <div class="below">
      <section v-if="data?.due.length" aria-label="Due">
        <h2>Due</h2>
        <ul class="notes">
          <li v-for="n in data.due" :key="n.athleteId + n.kind">
            <router-link :to="to(n)"
              ><strong>{{ n.name }}</strong></router-link
            >
            {{ kinds[n.kind] ? `${kinds[n.kind]}: ` : '' }}{{ n.text }}
          </li>
        </ul>
      </section>
      <section v-if="data?.in.length" aria-label="Came in">
        <h2>Came in</h2>
        <ul class="notes">
          <li v-for="n in data.in" :key="n.athleteId + n.text">
            <router-link :to="to(n)"
              ><strong>{{ n.name }}</strong></router-link
            >
            {{ n.text }} <span class="quiet small">{{ longDay(n.date) }}</span>
          </li>
        </ul>
      </section>
      <section v-if="others.length" aria-label="This week">
        <h2>This week</h2>
        <ul class="week">
          <li v-for="d in others" :key="d.date" :class="{ past: d.date < (data?.date ?? '') }">
            <span class="day num">{{ longDay(d.date) }}</span>
            <span class="cells">
              <router-link
                v-for="c in classesOn(d.date)"
                :key="c.id"
                :to="{ name: 'class', params: { classId: c.id } }"
                class="cell"
                >{{ c.name }} <span class="quiet small">class of {{ c.golfers }}</span></router-link
              >
              <router-link
                v-for="r in d.sessions.filter((x) => x.kind !== 'home')"
                :key="r.athleteId + r.session"
                :to="{ name: 'run', params: { id: r.athleteId, sessionId: r.session } }"
                class="cell"
                >{{ r.name }}<span v-if="r.letter" class="quiet small">{{ ` ${r.letter}` }}</span
                ><span v-if="state(r)" class="small" :class="r.missed ? 'attention' : 'quiet'">: {{ state(r) }}</span>
              </router-link>
              <router-link v-for="n in d.notes" :key="n.athleteId + n.text" :to="to(n)" class="cell note"
                >{{ n.name || 'Screen day:' }} {{ said(n) }}</router-link
              >
            </span>
          </li>
        </ul>
      </section>
    </div>
  </div>
</template>

<style scoped>
.today {
  display: grid;
  gap: 14px;
  align-content: start;
}
.now,
.notes,
.week {
  list-style: none;
  margin: 0;
  padding: 0;
}
.now {
  border-top: 1px solid rgb(var(--v-theme-line));
}
.now li {
  border-bottom: 1px solid rgb(var(--v-theme-line));
}
.open {
  display: grid;
  grid-template-columns: 60px 190px minmax(0, 1fr) 150px;
  gap: 10px;
  align-items: center;
  min-height: 54px;
  padding: 4px 8px;
  color: inherit !important;
  text-decoration: none;
  font-size: 17px;
}
.who {
  font-weight: 650;
}
.what {
  display: flex;
  flex-direction: column;
  min-width: 0;
}
.what strong {
  font-weight: 500;
}
.items {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.state {
  text-align: right;
  font-size: 15px;
}
.over {
  color: rgb(var(--v-theme-secondary));
}
.below {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(340px, 100%), 1fr));
  gap: 24px;
}
.notes li {
  padding: 4px 0;
}
.week li {
  display: grid;
  grid-template-columns: 92px 1fr;
  gap: 8px;
  padding: 5px 0;
  border-bottom: 1px solid rgb(var(--v-theme-line));
}
.past .day {
  color: rgb(var(--v-theme-secondary));
}
.cells {
  display: flex;
  flex-direction: column;
  gap: 3px;
}
.cell {
  color: inherit !important;
}
@media (max-width: 700px) {
  .open {
    grid-template-columns: 1fr auto;
    gap: 2px 10px;
  }
  .time {
    grid-row: 1;
    grid-column: 2;
  }
  .who {
    grid-row: 1;
    grid-column: 1;
  }
  .what {
    grid-column: 1 / -1;
  }
  .state {
    grid-column: 1 / -1;
    text-align: left;
  }
}
</style>
