<script setup lang="ts">
import { computed } from 'vue'
import { useRoute } from 'vue-router'

import { useAthlete, useSession } from '@/api/queries'
import { longDay } from '@/parts/days'

/** Whose page it is, of which day, and what it is not: at the head and the foot of what is printed. */
const props = defineProps<{ golferId: string; foot?: boolean }>()
const route = useRoute()
const { data: session } = useSession()
const { data: golfer } = useAthlete(() => props.golferId)
/** Pages that are made for paper carry all of it themselves. */
const OWN = ['card', 'warmup', 'group-warmup', 'force-page']
const shown = computed(() => session.value && !OWN.includes(String(route.name)))
const head = computed(() =>
  [golfer.value?.profile.name, route.meta.title, longDay(session.value?.today ?? ''), session.value?.practice]
    .filter(Boolean)
    .join(' · '),
)
</script>

<template>
  <p v-if="shown && props.foot" class="paper-only small" aria-hidden="true">
    Not medical advice and no substitute for a licensed practitioner; local rules apply.
  </p>
  <p v-else-if="shown" class="paper-only head" aria-hidden="true">{{ head }}</p>
</template>

<style scoped>
.head {
  font-weight: 650;
  border-bottom: 1px solid #000;
  margin: 0 0 8px;
  padding-bottom: 4px;
}
</style>
