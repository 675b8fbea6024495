<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import type { Schemas } from '@/api/client'
import { count } from '@/parts/words'
import SelectField from '@/parts/SelectField.vue'

/** Where in a file the results are: which sheet, which rows are the header, and which way golfers and tests lie. */
const props = defineProps<{ upload: Schemas['Upload']; layout: Schemas['Layout']; busy: boolean }>()
const emit = defineEmits<{ change: [layout: Schemas['Layout']] }>()

const pages = computed(() => props.upload.pages ?? [])
const sheets = computed(() =>
  pages.value.map((p, i) => ({
    title: `${p.name || 'the file'} (${count(p.rows, 'row')}${p.hidden ? ', hidden' : ''})`,
    value: i,
  })),
)
const page = computed(() => pages.value[props.layout.sheet])
const width = computed(() => Math.max(0, ...(props.upload.first ?? []).map((r) => r.cells.length)))
/** How many columns of the file are drawn. */
const DRAWN = 12
const columns = computed(() => Math.min(width.value, DRAWN))
/** The header rows as they stand in the file; of a turned sheet the one row the golfers stand in. */
const isHead = (line: number) => {
  const { top, heads, turned } = props.layout
  if (turned) return line === top
  const rows = (props.upload.first ?? []).map((r) => r.line).filter((l) => l >= top)
  return rows.slice(0, heads).includes(line)
}
const summary = computed(() => {
  const { top, heads, turned } = props.layout
  const parts = [
    heads === 0 ? 'no header' : heads === 1 ? `header in row ${top}` : `header of ${heads} rows from row ${top}`,
    turned ? 'golfers or days across' : 'golfers or tests down',
  ]
  if (page.value?.name) parts.unshift(`sheet ${page.value.name}`)
  if (props.upload.encoding) parts.push(`written in ${props.upload.encoding}`)
  return parts.join(', ')
})
const unsure = computed(
  () => !(props.upload.mapping?.columns ?? []).some((c) => c.field === 'measure' || c.field === 'value'),
)
const open = ref(false)
watch(
  () => props.upload.id,
  () => (open.value = unsure.value || pages.value.length > 1),
  { immediate: true },
)
const set = (change: Partial<Schemas['Layout']>) => emit('change', { ...props.layout, ...change })
</script>

<template>
  <section class="where">
    <button class="plain small" :aria-expanded="open" @click="open = !open">
      {{ open ? '▾' : '▸' }} Where the results are: {{ summary }}
    </button>
    <div v-if="open">
      <div class="row fields">
        <SelectField
          v-if="pages.length > 1"
          :model-value="props.layout.sheet"
          label="Sheet"
          :items="sheets"
          :disabled="props.busy"
          @update:model-value="(sheet: number) => emit('change', { sheet, top: 0, heads: 1 })"
        />
        <SelectField
          :model-value="props.layout.heads"
          :label="props.layout.turned ? 'Columns that say the test' : 'Rows of the header'"
          :items="[0, 1, 2, 3, 4]"
          :disabled="props.busy"
          @update:model-value="(heads: number) => set({ heads })"
        />
        <SelectField
          :model-value="!!props.layout.turned"
          label="Golfers or days stand"
          :items="[
            { title: 'down, one a row', value: false },
            { title: 'across, one a column', value: true },
          ]"
          :disabled="props.busy"
          @update:model-value="(turned: boolean) => set({ turned })"
        />
      </div>
      <p class="small quiet">Choose the row the header begins in, where it is another one.</p>
      <div class="grid">
        <table class="small">
          <caption class="visually-hidden">
            The first rows as they stand in the file
          </caption>
          <thead>
            <tr>
              <th scope="col">Row</th>
              <th v-for="n in columns" :key="n" scope="col">{{ n }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="r in props.upload.first ?? []" :key="r.line" :class="{ head: isHead(r.line) }">
              <th scope="row">
                <button
                  class="line num"
                  :aria-label="`Header begins in row ${r.line}`"
                  :aria-pressed="r.line === props.layout.top"
                  :disabled="props.busy"
                  @click="set({ top: r.line, heads: Math.max(1, props.layout.heads) })"
                >
                  {{ r.line }}
                </button>
              </th>
              <td v-for="n in columns" :key="n">{{ r.cells[n - 1] }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <p v-if="width > DRAWN" class="small quiet">And {{ width - DRAWN }} more columns.</p>
    </div>
  </section>
</template>

<style scoped>
.where {
  margin: 8px 0;
}
.fields {
  margin-top: 12px;
}
.fields > * {
  max-width: 240px;
  min-width: 170px;
}
.grid {
  overflow-x: auto;
  max-height: 260px;
  overflow-y: auto;
  border-block: 1px solid rgb(var(--v-theme-line));
}
table {
  border-collapse: collapse;
}
td,
th {
  padding: 1px 10px 1px 0;
  text-align: left;
  max-width: 180px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
thead th {
  font-weight: 400;
}
.head td {
  font-weight: 650;
  background: rgb(var(--v-theme-primary), 0.1);
}
.line {
  min-width: 32px;
  min-height: 24px;
  border: 1px solid rgb(var(--v-theme-line));
  background: rgb(var(--v-theme-surface));
  color: inherit;
  font: inherit;
  cursor: pointer;
}
.line[aria-pressed='true'] {
  border-color: rgb(var(--v-theme-primary));
  font-weight: 700;
}
@media (pointer: coarse) {
  .line {
    min-width: 44px;
    min-height: 44px;
  }
}
</style>
