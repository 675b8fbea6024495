<script setup lang="ts">
import { useTitle } from '@vueuse/core'
import { computed, onBeforeUnmount, onMounted, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import type { ApiError } from '@/api/client'
import { useAthlete } from '@/api/queries'
import { keepFocus } from '@/keys/keepFocus'
import { useGo } from '@/keys/useGo'
import { useLetter } from '@/keys/useLetter'
import { ageWords } from '@/offline/age'
import { oldest } from '@/offline/answers'
import { sweep } from '@/offline/kept'
import { refused, stopDownload } from '@/offline/refused'
import { useUpdate } from '@/offline/update'
import SeasonLane from '@/parts/SeasonLane.vue'
import { late } from '@/parts/late'
import { useTurns } from '@/parts/turns'

import FirstGolfer from './FirstGolfer.vue'
import FootStrip from './FootStrip.vue'
import { pageAt } from './pages'
import PaperHead from './PaperHead.vue'
import TopLine from './TopLine.vue'
import WorkPath from './WorkPath.vue'

const route = useRoute()
const golferId = computed(() => (typeof route.params.id === 'string' ? route.params.id : ''))
const { data: golfer, error } = useAthlete(golferId)
const framed = computed(() => route.name !== undefined && !route.meta.open && !route.meta.bare)
const shown = computed(() => error.value && golferId.value && !(error.value as ApiError).offline)
const router = useRouter()
/** What can be done here is drawn first; then what leads a new practice, and what only paper shows. */
const drawn = useTurns(() => (framed.value ? 2 : 1))
const HelpDialog = late(() => import('@/help/HelpDialog.vue'))
const helping = ref(false)
/** Whether help was ever asked for: until then it is not fetched. */
const helped = ref(false)
const help = () => (helped.value = helping.value = true)
useLetter('?', help, { inNumbers: true })
useGo((letter) => {
  const to = route.meta.open ? undefined : pageAt(letter, golferId.value)
  if (to) void router.push(to)
})
// A page of a golfer carries the name: tabs and assistive technology tell them apart by it.
useTitle(() => [route.meta.title, golferId.value && golfer.value?.profile.name, 'Dunnock'].filter(Boolean).join(' · '))
/** After this long a page that was opened is read, not drawn. */
const SETTLED_MS = 3000
/** Past what stands at the top of every page. */
function skip() {
  const main = document.querySelector<HTMLElement>('#content')
  main?.focus()
  main?.scrollIntoView()
}
let release: (() => void) | undefined
onBeforeUnmount(() => release?.())
onMounted(() => {
  release = keepFocus()
  document.addEventListener('click', stopDownload)
  window.addEventListener('online', () => (refused.value = ''))
  // Keeping the application on the device is no hurry: what the page is opened for comes first.
  setTimeout(() => {
    const update = useUpdate()
    void update.register().then(() => {
      // What no device keeps is fetched while there is a network: a session's dialogs open without one too.
      if (update.cannot) void import('vuetify/components/VDialog')
    })
    void sweep()
  }, SETTLED_MS)
})
</script>

<template>
  <v-app>
    <template v-if="framed">
      <a href="#content" class="skip" @click.prevent="skip">To the content</a>
      <TopLine :golfer-id="golferId" @help="help" />
      <FirstGolfer v-if="drawn > 1" />
      <!-- Their place is kept until the golfer is there: nothing moves when they come. -->
      <section v-if="golferId && !shown" class="season no-print" aria-label="This golfer">
        <div v-if="golfer" class="who">
          <strong>{{ golfer.profile.name }}</strong>
          <span class="quiet small">
            {{ golfer.age }} · plays {{ golfer.profile.playingSide }} · {{ golfer.tier }}</span
          >
        </div>
        <SeasonLane v-if="golfer" :lane="golfer.lane" :golfer-id="golfer.id" labelled />
      </section>
      <WorkPath v-if="golferId && !shown" :golfer-id="golferId" :says="golfer?.path" />
    </template>
    <v-main id="content" class="main" tabindex="-1">
      <div v-if="shown" class="sheet" role="alert">
        <h1>This golfer cannot be shown</h1>
        <p>{{ error?.message }}</p>
        <router-link to="/">Back to the squad</router-link>
      </div>
      <template v-else>
        <p v-if="oldest && framed" class="attention kept no-print" role="status">
          No connection: what stands here is as it was {{ ageWords(oldest) }} or later.
        </p>
        <PaperHead v-if="framed && drawn > 1" :golfer-id="golferId" />
        <router-view :key="golferId" />
        <PaperHead v-if="framed && drawn > 1" :golfer-id="golferId" foot />
      </template>
    </v-main>
    <div v-if="refused" class="refused box stop no-print" role="alert">
      {{ refused }} <v-btn size="small" @click="refused = ''">Close</v-btn>
    </div>
    <FootStrip v-if="framed" />
    <HelpDialog v-if="helped" v-model="helping" :golfer-open="golferId !== ''" />
  </v-app>
</template>

<style scoped>
.season {
  display: grid;
  grid-template-columns: 210px 1fr;
  align-items: center;
  border-bottom: 1px solid rgb(var(--v-theme-line));
  background: rgb(var(--v-theme-surface));
  height: 56px;
  padding: 0 16px;
}
.who {
  line-height: 1.2;
  display: flex;
  flex-direction: column;
}
@media (max-width: 900px) {
  .season {
    grid-template-columns: 0 1fr;
    height: auto;
    padding: 4px 12px;
  }
  .who {
    grid-column: 1 / -1;
    grid-row: 2;
  }
}
/* On a phone the work has the room: the lane stands on the season's page and in the squad. */
@media (max-width: 700px) {
  .season {
    display: block;
  }
  .season :deep(.lane),
  .season :deep(.over) {
    display: none;
  }
  .who {
    flex-direction: row;
    gap: 8px;
    align-items: baseline;
  }
}
.main {
  display: flex;
  flex-direction: column;
  outline: none;
}
.kept {
  margin: 8px 16px 0;
}
.refused {
  position: fixed;
  bottom: calc(var(--foot, 30px) + 8px);
  left: 50%;
  transform: translateX(-50%);
  max-width: min(560px, calc(100vw - 24px));
  z-index: 6;
}
.skip {
  position: fixed;
  top: -60px;
  left: 8px;
  z-index: 20;
  padding: 12px 16px;
  background: rgb(var(--v-theme-surface));
}
.skip:focus {
  top: 8px;
}
</style>
