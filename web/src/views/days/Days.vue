<script setup lang="ts">
import { mdiPlus } from '@mdi/js'
import { useRouter } from 'vue-router'

import { longDay } from '@/parts/days'
import EmptyState from '@/parts/EmptyState.vue'

import { useDays } from './useDays'

const { data: days, error, isPending } = useDays()
const router = useRouter()
const plan = () => void router.push({ name: 'plan-day' })
</script>

<template>
  <div class="sheet">
    <div class="row spread">
      <h1>Screen days</h1>
      <v-btn variant="flat" color="action" :prepend-icon="mdiPlus" @click="plan">Plan a day</v-btn>
    </div>
    <p class="small quiet">A squad goes through stations; each station writes down one test at a time.</p>
    <p v-if="error" class="stop" role="alert">{{ error.message }}</p>
    <p v-if="isPending" class="quiet">Loading …</p>
    <EmptyState
      v-else-if="days?.length === 0"
      title="No screen day yet"
      text="Choose golfers and a battery; the running order keeps everybody busy and puts what tires last."
    >
      <v-btn variant="flat" color="action" @click="plan">Plan a day</v-btn>
    </EmptyState>
    <table v-else-if="days" class="list">
      <thead>
        <tr>
          <th>Day</th>
          <th>Name</th>
          <th class="num">Golfers</th>
          <th class="num">Stations</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="d in days" :key="d.id">
          <td>{{ longDay(d.date) }} {{ d.date.slice(0, 4) }}</td>
          <td>
            <router-link :to="{ name: 'day', params: { dayId: d.id } }">{{ d.name }}</router-link>
          </td>
          <td class="num">{{ d.golfers }}</td>
          <td class="num">{{ d.stations }}</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.list {
  border-collapse: collapse;
  max-width: 100%;
}
td,
th {
  text-align: left;
  padding: 6px 10px 6px 0;
  border-bottom: 1px solid rgba(var(--v-theme-on-surface), 0.08);
}
</style>
