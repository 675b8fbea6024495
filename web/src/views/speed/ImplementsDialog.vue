<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { ref, watch } from 'vue'

import { api, must, type Schemas } from '@/api/client'
import { keys } from '@/api/keys'

import type { Page } from './useSpeed'
import SelectField from '@/parts/SelectField.vue'

/** What the practice owns to swing: mass, length, balance point when it is known. */
type Implement = Schemas['Implement']
const open = defineModel<boolean>({ required: true })
const props = defineProps<{ page: Page; athleteId: string }>()
const client = useQueryClient()
type Owned = Implement & { practice: boolean }
const path = { params: { path: { athleteId: props.athleteId } } }
const { data } = useQuery({
  queryKey: keys.implements(props.athleteId),
  queryFn: async (): Promise<Owned[]> => [
    ...(await must(api.GET('/athletes/{athleteId}/implements', path))).map((i) => ({ ...i, practice: false })),
    ...(await must(api.GET('/implements'))).map((i) => ({ ...i, practice: true })),
  ],
})
const list = ref<Owned[]>([])
const problem = ref('')
watch([open, data], () => {
  if (open.value) list.value = (data.value ?? []).map((i) => ({ ...i }))
})
const bare = ({ id, name, kind, massG, lengthM, balanceM }: Implement): Implement => ({
  id,
  name,
  kind,
  massG,
  lengthM,
  ...(balanceM ? { balanceM } : {}),
})
/** What of one owner's list was changed here: what somebody else adds meanwhile stays. */
function changes(practice: boolean) {
  const before = new Map((data.value ?? []).filter((i) => i.practice === practice).map((i) => [i.id, i]))
  const now = list.value.filter((i) => i.practice === practice)
  const same = (a: Implement, b?: Implement) => JSON.stringify(bare(a)) === JSON.stringify(b && bare(b))
  return {
    save: now.filter((i) => !same(i, before.get(i.id))).map(bare),
    remove: [...before.keys()].filter((id) => !now.some((i) => i.id === id)),
  }
}
const save = useMutation({
  mutationFn: async () => {
    const [ours, theirs] = [changes(true), changes(false)]
    if (ours.save.length || ours.remove.length) await must(api.PATCH('/implements', { body: ours }))
    if (theirs.save.length || theirs.remove.length)
      await must(api.PATCH('/athletes/{athleteId}/implements', { ...path, body: theirs }))
  },
  onSuccess: async () => {
    await Promise.all([
      client.invalidateQueries({ queryKey: keys.implements() }),
      client.invalidateQueries({ queryKey: keys.speed() }),
    ])
    open.value = false
  },
  onError: (e) => {
    problem.value = e.message
  },
})
const kinds = [
  { value: 'speed', title: 'speed stick or club' },
  { value: 'stick', title: 'stick' },
  { value: 'driver', title: 'driver' },
  { value: 'wood', title: 'wood' },
  { value: 'iron', title: 'iron' },
  { value: 'wedge', title: 'wedge' },
]
function add() {
  list.value.push({
    id: crypto.randomUUID().slice(0, 12),
    name: '',
    kind: 'speed',
    massG: 250,
    lengthM: 1.1,
    practice: true,
  })
}
const percent = (g: number) => {
  const p = (100 * (g - props.page.own.massG)) / props.page.own.massG
  return `${p > 0 ? '+' : '−'}${Math.abs(p).toFixed(0)}%`
}
</script>

<template>
  <v-dialog v-model="open" max-width="1100">
    <div class="box">
      <h2>Implements and clubs</h2>
      <p class="small quiet">
        A golfer’s own driver is weighed in the intake. Two clubs held together are one implement. The balance point is
        measured from the butt, with the club laid over a finger.
      </p>
      <p v-if="problem" class="stop" role="alert">{{ problem }}</p>
      <table v-if="list.length">
        <thead>
          <tr>
            <th>Name</th>
            <th>Kind</th>
            <th>Mass, g</th>
            <th>Length, m</th>
            <th>Balance, m</th>
            <th>Own driver</th>
            <th>Whose</th>
            <th><span class="visually-hidden">Take out</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(i, k) in list" :key="i.id">
            <td><v-text-field v-model="i.name" :aria-label="`Name ${k + 1}`" hide-details maxlength="60" /></td>
            <td class="kind">
              <SelectField v-model="i.kind" :items="kinds" :aria-label="`Kind ${k + 1}`" />
            </td>
            <td><v-text-field v-model.number="i.massG" :aria-label="`Mass ${k + 1}`" type="number" hide-details /></td>
            <td>
              <v-text-field
                v-model.number="i.lengthM"
                :aria-label="`Length ${k + 1}`"
                type="number"
                step="0.01"
                hide-details
              />
            </td>
            <td>
              <v-text-field
                :model-value="i.balanceM || ''"
                :aria-label="`Balance ${k + 1}`"
                type="number"
                step="0.01"
                placeholder="unknown"
                hide-details
                @update:model-value="(v: string) => (i.balanceM = Number(v) || 0)"
              />
            </td>
            <td class="num">{{ percent(i.massG) }}</td>
            <td class="whose">
              <SelectField
                v-model="i.practice"
                :items="[
                  { value: true, title: 'practice' },
                  { value: false, title: 'golfer' },
                ]"
                :aria-label="`Whose ${k + 1}`"
              />
            </td>
            <td>
              <v-btn size="small" :aria-label="`Take out ${i.name || k + 1}`" @click="list.splice(k, 1)"
                >Take out</v-btn
              >
            </td>
          </tr>
        </tbody>
      </table>
      <p v-else class="quiet">None yet: only the golfer’s own driver is swung.</p>
      <div class="row">
        <v-btn @click="add">Add one</v-btn>
        <v-btn variant="flat" color="action" :loading="save.isPending.value" @click="save.mutate()">Save</v-btn>
        <v-btn @click="open = false">Close</v-btn>
      </div>
    </div>
  </v-dialog>
</template>

<style scoped>
.box {
  overflow-x: auto;
}
td,
th {
  padding: 3px 8px 3px 0;
  text-align: left;
  min-width: 84px;
}
.kind {
  min-width: 190px;
}
.whose {
  min-width: 130px;
}
td:first-child {
  min-width: 170px;
}
</style>
