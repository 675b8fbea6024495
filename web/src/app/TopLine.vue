<script setup lang="ts">
import { mdiAccountCircleOutline, mdiMagnify } from '@mdi/js'
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { useOnline } from '@vueuse/core'
import { ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import { api, must } from '@/api/client'
import { useSession } from '@/api/queries'

import { useLetter } from '@/keys/useLetter'
import { sweep } from '@/offline/kept'
import { useUpdate } from '@/offline/update'
import { late } from '@/parts/late'
import { rememberPerson } from '@/parts/unsent'

import GolferSwitcher from './GolferSwitcher.vue'
import { topPages } from './pages'
import { flipTheme } from './theme'

const props = defineProps<{ golferId: string }>()
const emit = defineEmits<{ help: [] }>()

const route = useRoute()
const router = useRouter()
const client = useQueryClient()
const online = useOnline()
const { data: session } = useSession()
const CommandSearch = late(() => import('./CommandSearch.vue'))
const search = ref(false)
/** Whether anything was ever looked for: until then it is not fetched. */
const searched = ref(false)
const find = () => (searched.value = search.value = true)
useLetter('/', find)
const account = ref<HTMLElement>()
/** Whether the account was ever opened: until then nothing of it is made. */
const looked = ref(false)
const unfolded = ref(false)
watch(
  () => route.fullPath,
  () => (unfolded.value = false),
)

const update = useUpdate()
/** The pages of the top line, and the pages below each. */
const below: Record<string, string[]> = {
  today: ['today', 'plan-class'],
  days: ['days', 'plan-day', 'day', 'station'],
}
const nav = topPages.map((p) => ({ ...p, on: below[p.name] ?? [p.name] }))

function open(id: string | null) {
  if (!id) return
  const name = ['intake', 'screen', 'read', 'programme', 'floor'].includes(String(route.name))
    ? String(route.name)
    : 'read'
  void router.push({ name, params: { id } })
}

const signOut = useMutation({
  mutationFn: () => must(api.DELETE('/session')),
  onSettled: () => {
    void sweep(true)
    rememberPerson('')
    client.clear()
    void router.push({ name: 'sign-in' })
  },
})
</script>

<template>
  <header class="top no-print">
    <router-link to="/" class="brand" aria-label="Dunnock, squad">
      <img src="/dunnock.svg" alt="" width="26" height="26" />
      <span>Dunnock</span>
    </router-link>
    <!-- On a phone what is not needed all the time unfolds. -->
    <button
      type="button"
      class="key menu-key"
      :aria-expanded="unfolded"
      aria-controls="top-fold"
      @click="unfolded = !unfolded"
    >
      {{ unfolded ? 'Close' : 'Menu' }}
    </button>
    <div id="top-fold" class="fold" :class="{ unfolded }">
      <nav aria-label="Top level">
        <router-link
          v-for="n in nav"
          :key="n.name"
          :to="{ name: n.name }"
          class="nav"
          :class="{ on: n.on.includes(String(route.name)) }"
          >{{ n.title }}</router-link
        >
      </nav>
      <GolferSwitcher class="switcher" :golfer-id="props.golferId" @choose="open" />
      <button type="button" class="key" @click="find">
        <svg viewBox="0 0 24 24" aria-hidden="true"><path :d="mdiMagnify" /></svg>Find <kbd>/</kbd>
      </button>
      <button type="button" class="key" @click="emit('help')">Help <kbd>?</kbd></button>
      <span class="gap" />
      <v-btn v-if="update.waiting" size="small" color="action" variant="flat" @click="update.takeOver()"
        >A newer Dunnock is here: load it</v-btn
      >
      <button type="button" class="key" popovertarget="account">
        <svg viewBox="0 0 24 24" aria-hidden="true"><path :d="mdiAccountCircleOutline" /></svg
        >{{ session?.name ?? 'Account' }}
      </button>
      <div id="account" ref="account" popover="auto" class="box account" @beforetoggle="looked = true">
        <template v-if="looked">
          <p class="small quiet">{{ session?.practice }}<br />{{ session?.email }}</p>
          <v-btn block :to="{ name: 'practice' }" @click="account?.hidePopover()">The practice</v-btn>
          <v-btn block @click="flipTheme">Light or dark</v-btn>
          <v-btn block @click="signOut.mutate()">Sign out</v-btn>
        </template>
      </div>
    </div>
    <span class="small quiet" aria-live="polite">{{ online ? '' : 'No connection: what you type is kept here' }}</span>
    <CommandSearch v-if="searched" v-model="search" :golfer-id="props.golferId" @help="emit('help')" />
  </header>
</template>

<style scoped>
.top {
  height: 48px;
  display: flex;
  align-items: center;
  gap: 10px;
  padding: 0 16px;
  background: rgb(var(--v-theme-surface));
  border-bottom: 1px solid rgb(var(--v-theme-line));
}
.brand {
  display: flex;
  gap: 8px;
  align-items: center;
  text-decoration: none;
  color: inherit;
  font-weight: 700;
  font-size: 1.05rem;
}
.nav {
  text-decoration: none;
  color: inherit;
  padding: 6px 7px;
  white-space: nowrap;
}
nav {
  display: flex;
  flex-wrap: wrap;
}
.nav.on {
  box-shadow: inset 0 -3px 0 rgb(var(--v-theme-secondary));
}
.switcher {
  max-width: 230px;
  min-width: 180px;
}
@media (max-width: 900px) {
  .top {
    height: auto;
    flex-wrap: wrap;
    padding: 2px 12px;
  }
}
.gap {
  flex: 1;
}
.fold {
  display: contents;
}
@media (max-width: 700px) {
  .menu-key {
    margin-left: auto;
  }
  .fold {
    display: none;
  }
  .fold.unfolded {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 8px;
    width: 100%;
    padding-bottom: 8px;
  }
  .nav {
    padding: 11px 9px;
  }
}
/* Plain ones: every page begins with them. */
.key {
  display: inline-flex;
  align-items: center;
  gap: 8px;
  min-height: 36px;
  padding: 0 14px;
  border: 0;
  border-radius: 2px;
  background: none;
  color: inherit;
  font: inherit;
  font-size: 0.875rem;
  font-weight: 500;
  white-space: nowrap;
  cursor: pointer;
}
.key:hover {
  background: rgba(var(--v-theme-on-surface), 0.06);
}
.key svg {
  width: 18px;
  height: 18px;
  fill: currentColor;
}
@media (pointer: coarse) {
  .brand,
  .nav,
  .key {
    min-height: 44px;
    align-items: center;
  }
  .nav {
    display: inline-flex;
  }
  .switcher :deep(.v-field) {
    min-height: 44px;
  }
  .top kbd {
    display: none;
  }
}
@media (min-width: 701px) {
  .menu-key {
    display: none;
  }
}
kbd {
  border: 1px solid rgb(var(--v-theme-line));
  border-radius: 3px;
  padding: 0 5px;
  font: inherit;
  font-size: var(--small);
}
.account:not(:popover-open) {
  display: none;
}
.account {
  inset: 44px 12px auto auto;
  min-width: 220px;
}
</style>
