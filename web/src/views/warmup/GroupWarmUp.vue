<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue'

import { useSquad } from '@/api/queries'
import { useFew } from '@/parts/few'
import FewSearch from '@/parts/FewSearch.vue'
import EmptyState from '@/parts/EmptyState.vue'
import { unsentKey } from '@/parts/unsent'

import { ofGroup } from './sources'
import { useWarmUp } from './useWarmUp'
import WarmUpBench from './WarmUpBench.vue'

/** One warm-up for golfers who stand in line; who stands there is kept with it in the browser. */
const { data: squad } = useSquad()
const store = unsentKey('warmup.line')
const chosen = ref<string[]>([])
const w = useWarmUp(
  ofGroup(() => chosen.value),
  { purpose: 'range', minutes: 15, place: 'range' },
)
const { made } = w
onMounted(() => {
  try {
    chosen.value = JSON.parse(localStorage.getItem(store) ?? '[]') as string[]
  } catch {
    localStorage.removeItem(store)
  }
})
const golfers = computed(() => squad.value?.athletes ?? [])
const few = useFew(
  () => golfers.value,
  () => chosen.value,
)
const juniors = computed(() => golfers.value.filter((g) => g.age < 18).map((g) => g.id))
/** Who is gone from the squad stands in no line. */
watch(golfers, (all) => {
  const here = chosen.value.filter((id) => all.some((g) => g.id === id))
  if (here.length !== chosen.value.length) chosen.value = here
})
watch(chosen, (line) => {
  localStorage.setItem(store, JSON.stringify(line))
  if (line.length === 0) made.value = undefined
  else if (!made.value) void w.begin()
  else if (w.edited.value) void w.take(made.value.items)
  else void w.build()
})
function toggle(id: string) {
  chosen.value = chosen.value.includes(id) ? chosen.value.filter((x) => x !== id) : [...chosen.value, id]
}
const whose = computed(() =>
  golfers.value
    .filter((g) => chosen.value.includes(g.id))
    .map((g) => g.name)
    .join(', '),
)
</script>

<template>
  <WarmUpBench :bench="w" heading="Warm-up for a group" :whose="whose" group>
    <template #who>
      <fieldset class="who no-print">
        <legend class="small">
          In the line
          <button v-if="juniors.length" type="button" class="plain link" @click="chosen = [...juniors]">
            all juniors
          </button>
          <button v-if="chosen.length" type="button" class="plain link" @click="chosen = []">nobody</button>
        </legend>
        <FewSearch v-if="few.many.value" v-model="few.text.value" :more="few.more.value" />
        <label v-for="g in few.shown.value" :key="g.id">
          <input type="checkbox" :checked="chosen.includes(g.id)" @change="toggle(g.id)" />
          {{ g.name }} <span class="quiet small">{{ g.age }}</span>
        </label>
      </fieldset>
    </template>
    <EmptyState
      v-if="!made && !w.problem.value"
      title="Nobody in the line yet"
      text="Choose who warms up together: what they share sets the warm-up, and whoever has a limit is told what to do instead."
    />
  </WarmUpBench>
</template>

<style scoped>
.who {
  border: 0;
  padding: 0;
  margin: 10px 0;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 18px;
}
legend {
  margin-bottom: 4px;
}
label {
  min-height: 30px;
  display: inline-flex;
  gap: 6px;
  align-items: center;
}
.link {
  text-decoration: underline;
  margin-left: 10px;
}
@media (pointer: coarse) {
  label {
    min-height: 44px;
  }
}
</style>
