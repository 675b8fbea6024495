<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRoute } from 'vue-router'

import { golferPages, topPages } from '@/app/pages'
import { vFirst } from '@/keys/first'
import { useLetters } from '@/keys/letters'

import { findInGuide, guide, sectionOf, type Section } from './guide'

/** What this page is for, its keys, the keys that work anywhere, and the whole guide, to be searched; without a network too. */
const open = defineModel<boolean>({ required: true })
const props = defineProps<{ golferOpen: boolean }>()
const route = useRoute()
const letters = useLetters()
const text = ref('')
const chosen = ref<Section>()
const found = computed(() => findInGuide(text.value))
const shown = computed(() => chosen.value ?? sectionOf(String(route.name)) ?? guide[0])
const pages = computed(() => [...topPages, ...(props.golferOpen ? golferPages : [])])

watch(open, () => {
  text.value = ''
  chosen.value = undefined
})
</script>

<template>
  <v-dialog v-model="open" max-width="920" scrollable aria-label="Help">
    <div class="box help">
      <div class="row spread">
        <input
          v-model="text"
          type="search"
          class="look"
          aria-label="Look in the guide"
          placeholder="Look in the guide"
          v-first
        />
        <v-btn @click="open = false">Close</v-btn>
      </div>
      <ul v-if="text.trim()" class="found" aria-label="Found in the guide">
        <li v-for="s in found" :key="s.title">
          <button type="button" class="plain link" @click="((chosen = s), (text = ''))">{{ s.title }}</button>
        </li>
        <li v-if="!found.length" class="quiet" role="status">The guide says nothing of that. Try one word of it.</li>
      </ul>
      <div v-else class="columns">
        <article v-if="shown" aria-labelledby="help-title">
          <h2 id="help-title">{{ shown.title }}</h2>
          <!-- The guide ships with the program: nothing in it comes from outside. -->
          <!-- eslint-disable-next-line vue/no-v-html -->
          <div class="guide" v-html="shown.html" />
        </article>
        <section aria-label="Keys and guide">
          <h3>Keys anywhere</h3>
          <dl class="small">
            <dt><kbd>/</kbd></dt>
            <dd>find a golfer, a page, something to do</dd>
            <dt><kbd>?</kbd></dt>
            <dd>this help</dd>
            <template v-for="p in pages" :key="p.name">
              <dt>
                <kbd>g</kbd> <kbd>{{ p.letter }}</kbd>
              </dt>
              <dd>{{ p.title }}</dd>
            </template>
          </dl>
          <label class="small"><input v-model="letters" type="checkbox" /> Letters alone are keys</label>
          <h3>The guide</h3>
          <ul class="small parts">
            <li v-for="s in guide" :key="s.title">
              <button type="button" class="plain link" @click="chosen = s">{{ s.title }}</button>
            </li>
          </ul>
        </section>
      </div>
    </div>
  </v-dialog>
</template>

<style scoped>
.help {
  overflow: auto;
}
.look {
  flex: 1;
  font: inherit;
  padding: 8px;
  color: inherit;
  background: transparent;
  border: 1px solid rgb(var(--v-theme-line));
}
.columns {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 230px;
  gap: 28px;
}
.found {
  list-style: none;
  padding: 0;
  min-height: 200px;
}
.guide :deep(table) {
  border-collapse: collapse;
}
.guide :deep(td),
.guide :deep(th) {
  text-align: left;
  vertical-align: top;
  padding: 4px 10px 4px 0;
  border-bottom: 1px solid rgb(var(--v-theme-line));
}
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 2px 10px;
  margin: 0 0 8px;
}
dd {
  margin: 0;
}
kbd {
  border: 1px solid rgb(var(--v-theme-line));
  border-radius: 3px;
  padding: 0 5px;
  font: inherit;
  font-size: 0.9em;
}
.parts {
  columns: 2;
  list-style: none;
  padding: 0;
}
@media (max-width: 760px) {
  .columns {
    grid-template-columns: 1fr;
  }
}
</style>
