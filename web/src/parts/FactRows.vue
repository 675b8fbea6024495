<script setup lang="ts" generic="T">
import { mdiClose, mdiPlus } from '@mdi/js'
import { InTurns } from './InTurns'

/** Facts that come in any number: a heading, a way to add one, and a row of fields for each with its way out. */
const rows = defineModel<T[]>({ required: true })
const props = defineProps<{
  title: string
  /** What the button says. */
  add: string
  /** A new row. */
  fresh: () => T
  /** The name of a row, for its way out. */
  named: (row: T, i: number) => string
  /** What stands while there are none. */
  none?: string
}>()
</script>

<template>
  <section>
    <div class="row spread">
      <h2>{{ props.title }}</h2>
      <v-btn size="small" :prepend-icon="mdiPlus" @click="rows.push(props.fresh())">{{ props.add }}</v-btn>
    </div>
    <p v-if="rows.length === 0 && props.none" class="small quiet">{{ props.none }}</p>
    <div v-for="(row, i) in rows" :key="i" class="fact">
      <div class="fields">
        <InTurns :place="40"><slot :row="row" :i="i" /></InTurns>
      </div>
      <v-btn :icon="mdiClose" size="small" :aria-label="`Remove ${props.named(row, i)}`" @click="rows.splice(i, 1)" />
    </div>
  </section>
</template>

<style scoped>
.fact {
  display: flex;
  gap: 8px;
  align-items: center;
  margin-top: 10px;
}
.fields {
  flex: 1;
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(120px, 1fr));
  gap: 8px;
  align-items: center;
}
/* A name is longer than a day or a tick. */
@media (min-width: 701px) {
  .fields > :deep(.name) {
    grid-column: span 2;
  }
}
</style>
