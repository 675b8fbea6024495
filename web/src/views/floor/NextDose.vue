<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref } from 'vue'

import { api, must, type Schemas } from '@/api/client'
import { keys } from '@/api/keys'
import { dayAndYear } from '@/parts/days'

/** What the rules make of what was done: each with its sentence and what it changes. The coach says yes or no. */
const props = defineProps<{ id: string }>()
const client = useQueryClient()
const { data, error } = useQuery({
  queryKey: keys.nextDose(props.id),
  queryFn: () => must(api.GET('/athletes/{athleteId}/next-dose', { params: { path: { athleteId: props.id } } })),
})
const rules = ref(false)
const done = ref(false)
async function took(now: Schemas['NextDose']) {
  client.setQueryData(keys.nextDose(props.id), now)
  for (const k of [
    keys.programmes(props.id),
    keys.programme(),
    keys.floor(props.id),
    keys.today(),
    keys.athlete(props.id),
  ])
    await client.invalidateQueries({ queryKey: k })
}
const answer = useMutation({
  mutationFn: (body: { accept?: string[]; decline?: string[] }) =>
    must(api.POST('/athletes/{athleteId}/next-dose', { params: { path: { athleteId: props.id } }, body })),
  onSuccess: took,
})
const again = useMutation({
  mutationFn: (proposal: string) =>
    must(
      api.DELETE('/athletes/{athleteId}/next-dose/{proposal}', {
        params: { path: { athleteId: props.id, proposal } },
      }),
    ),
  onSuccess: took,
})
/** Those that change something and can be taken on together. */
const all = computed(() => data.value?.proposals.filter((p) => p.changes.length > 0 && !p.atOnce) ?? [])
/** The same change in several places is said once, with how often. */
function grouped(p: Schemas['DoseProposal']) {
  const out: { text: string; where: string[] }[] = []
  for (const c of p.changes) {
    const name = c.where.split(', ').slice(2).join(', ')
    const text = [name && !c.was.startsWith(name) ? `${name}: ` : '', c.was ? `${c.was} → ` : '', c.now].join('')
    const where = c.where.split(', ').slice(0, 2).join(', ')
    const had = out.find((x) => x.text === text)
    if (had) had.where.push(where)
    else out.push({ text, where: [where] })
  }
  return out
}
const declined = computed(() => data.value?.answers.filter((a) => !a.accepted) ?? [])
const accepted = computed(() => data.value?.answers.filter((a) => a.accepted) ?? [])
</script>

<template>
  <section class="dose" aria-label="Next dose">
    <div class="row spread">
      <h2>Next dose</h2>
      <v-btn v-if="all.length > 1" variant="outlined" @click="answer.mutate({ accept: all.map((p) => p.id) })"
        >Take all {{ all.length }} on</v-btn
      >
    </div>
    <p v-if="error" class="stop" role="alert">{{ error.message }}</p>
    <p v-if="answer.error.value" class="stop" role="alert">{{ answer.error.value.message }}</p>
    <p v-if="data && !data.programmeId" class="quiet">No version is trained by: nothing follows.</p>
    <p v-else-if="data?.proposals.length === 0" class="quiet">It goes on as planned.</p>
    <ul v-if="data?.proposals.length" class="list">
      <li v-for="p in data.proposals" :key="p.id" :data-rule="p.rule">
        <p class="text">
          <strong>{{ p.name }}.</strong> {{ p.text }}
        </p>
        <ul class="changes">
          <li v-for="g in grouped(p)" :key="g.text">
            {{ g.text }} <span class="quiet small">{{ g.where.join(' · ') }}</span>
          </li>
        </ul>
        <div class="row">
          <v-btn
            v-if="p.changes.length"
            variant="flat"
            color="action"
            :loading="answer.isPending.value"
            @click="answer.mutate({ accept: [p.id] })"
            >Take it on</v-btn
          >
          <v-btn v-if="!p.atOnce" @click="answer.mutate({ decline: [p.id] })">{{
            p.changes.length ? 'Leave it as planned' : 'Seen'
          }}</v-btn>
          <router-link v-if="p.changes.length" :to="{ name: 'programme', params: { id: props.id } }" class="small"
            >Change it by hand</router-link
          >
          <router-link v-if="p.rule === 'STOP'" :to="{ name: 'intake', params: { id: props.id } }" class="small"
            >Open the questions</router-link
          >
        </div>
      </li>
    </ul>
    <div v-if="accepted.length || declined.length" class="before">
      <button type="button" class="plain link" :aria-expanded="done" @click="done = !done">
        {{ done ? 'Hide' : 'What was said before' }}
      </button>
      <ul v-if="done" class="small">
        <li v-for="a in accepted" :key="a.proposal">
          {{ dayAndYear(a.at.slice(0, 10)) }}: {{ a.byItself ? 'by itself' : `taken on by ${a.by}` }}. {{ a.text }}
        </li>
        <li v-for="a in declined" :key="a.proposal">
          {{ dayAndYear(a.at.slice(0, 10)) }}: left as planned by {{ a.by }}. {{ a.text }}
          <button type="button" class="plain link" @click="again.mutate(a.proposal)">Ask again</button>
        </li>
      </ul>
    </div>
    <button type="button" class="plain link" :aria-expanded="rules" @click="rules = !rules">
      {{ rules ? 'Hide the rules' : 'The rules, in their order' }}
    </button>
    <ol v-if="rules" class="rules small">
      <li v-for="r in data?.rules" :key="r.id">
        <strong>{{ r.name }}.</strong>
        <span class="quiet">
          {{
            Object.entries(r.params)
              .map(([k, v]) => `${k.replace(/([A-Z])/g, ' $1').toLowerCase()} ${v}`)
              .join(', ')
          }}{{ Object.keys(r.params).length ? '. ' : '' }}{{ r.source }}</span
        >
      </li>
    </ol>
  </section>
</template>

<style scoped>
.dose {
  display: grid;
  gap: 8px;
}
.list,
.changes {
  list-style: none;
  padding: 0;
  margin: 0;
}
.list > li {
  padding: 10px 0;
  border-top: 1px solid rgb(var(--v-theme-line));
}
.text {
  margin: 0 0 4px;
}
.changes {
  padding-left: 14px;
  margin-bottom: 6px;
}
.link {
  color: rgb(var(--v-theme-action));
  text-decoration: underline;
  justify-self: start;
  min-height: 32px;
}
.rules {
  margin: 0;
  padding-left: 22px;
  display: grid;
  gap: 4px;
}
.before ul {
  margin: 4px 0 0;
  padding-left: 18px;
}
</style>
