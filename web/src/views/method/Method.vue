<script setup lang="ts">
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import RuleBook from './RuleBook.vue'
import SchoolList from './SchoolList.vue'

/** What a practice works by: the schools it chooses from, and the rules its programmes keep. */
const route = useRoute()
const router = useRouter()
const part = computed({
  get: () => (route.query.part === 'rules' ? 'rules' : 'schools'),
  set: (p: string) => void router.replace({ query: { part: p } }),
})
</script>

<template>
  <div class="sheet">
    <div class="row spread">
      <h1>{{ part === 'rules' ? 'Rules' : 'Schools' }}</h1>
      <v-btn-toggle v-model="part" mandatory density="compact" aria-label="What is shown">
        <v-btn value="schools">Schools</v-btn>
        <v-btn value="rules">Rules</v-btn>
      </v-btn-toggle>
    </div>
    <RuleBook v-if="part === 'rules'" />
    <SchoolList v-else />
  </div>
</template>
