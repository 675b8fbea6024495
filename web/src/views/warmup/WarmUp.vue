<script setup lang="ts">
import { useMagicKeys, whenever } from '@vueuse/core'
import { computed, onMounted, ref, watch } from 'vue'

import { useAthlete } from '@/api/queries'
import AskFirst from '@/parts/AskFirst.vue'
import { download, fileName } from '@/parts/download'
import TimedRunner from '@/parts/TimedRunner.vue'
import WarmUpStrip from '@/plots/WarmUpStrip.vue'

import ItemList from './ItemList.vue'
import RequestForm from './RequestForm.vue'
import RulesRail from './RulesRail.vue'
import TemplateMenu from './TemplateMenu.vue'
import { stepsOf } from './steps'
import { type Kept, type Request, useKept, useWarmUp } from './useWarmUp'

const props = defineProps<{ id: string }>()
const { data: golfer } = useAthlete(() => props.id)
const w = useWarmUp(props.id)
const { made, problem, busy, items, edited } = w
const { list, keep, drop } = useKept(props.id)
onMounted(() => void w.begin())

/** What is asked for: it is built at once, and over a warm-up put together by hand only when the coach says so. */
const asked = ref<Request>()
const wanted = computed({
  get: () => asked.value ?? w.request.value,
  set: (r: Request) => {
    asked.value = r
    if (!edited.value) void anew()
  },
})
async function anew() {
  if (asked.value) w.request.value = asked.value
  asked.value = undefined
  await w.build()
}
const asking = computed({
  get: () => edited.value && asked.value !== undefined,
  set: (open: boolean) => {
    if (!open) asked.value = undefined
  },
})
const at = ref('')
const broken = computed(
  () => new Set(made.value?.rules.filter((r) => r.status === 'broken' && r.item).map((r) => r.item ?? '') ?? []),
)
watch(items, (all) => {
  if (!all.some((i) => i.id === at.value)) at.value = ''
})

const naming = ref(false)
const name = ref('')
const said = ref('')
async function keepIt() {
  if (!made.value) return
  try {
    const k = await keep.mutateAsync({ name: name.value, request: made.value.request, items: made.value.items })
    said.value = `“${k.name}” is kept.`
    naming.value = false
  } catch (e) {
    said.value = (e as Error).message
  }
}
function load(k: Kept) {
  asked.value = undefined
  void w.restore({ request: k.request, items: k.items, edited: true })
}
async function dropIt(k: Kept) {
  await drop.mutateAsync(k.id)
  said.value = `“${k.name}” is removed.`
}
const running = ref(false)
const steps = computed(() => stepsOf(items.value))
const print = () => window.print()
async function card() {
  if (!made.value) return
  try {
    const blob = await w.card()
    download(blob, `warm-up-${fileName(golfer.value?.profile.name ?? '')}.pdf`)
  } catch (e) {
    said.value = (e as Error).message
  }
}
const title = computed(() => made.value?.title ?? '')

const pressed = useMagicKeys()
const typing = () => ['INPUT', 'TEXTAREA'].includes(document.activeElement?.tagName ?? '')
whenever(
  () => (pressed.ctrl_z?.value || pressed.meta_z?.value) && !pressed.shift?.value && !typing(),
  () => void w.undo(),
)
whenever(
  () => (pressed.ctrl_shift_z?.value || pressed.meta_shift_z?.value) && !typing(),
  () => void w.redo(),
)
</script>

<template>
  <div class="split">
    <div class="sheet">
      <div class="row spread no-print">
        <h1>Warm-up</h1>
        <div class="row">
          <TemplateMenu
            :templates="list?.templates ?? []"
            :kept="list?.kept ?? []"
            @ask="wanted = $event"
            @load="load"
            @drop="dropIt"
          />
          <v-btn size="small" :disabled="!w.canUndo.value" @click="w.undo()">Undo</v-btn>
          <v-btn size="small" :disabled="!w.canRedo.value" @click="w.redo()">Redo</v-btn>
          <v-btn size="small" :disabled="!made" @click="naming = true">Keep…</v-btn>
          <v-btn size="small" :disabled="!made" @click="print">Print</v-btn>
          <v-btn size="small" :disabled="!made" @click="card">PDF</v-btn>
          <v-btn size="small" variant="flat" color="action" :disabled="!steps.length" @click="running = true"
            >Run it</v-btn
          >
        </div>
      </div>
      <RequestForm v-model="wanted" class="no-print" :group="false" />
      <p v-if="problem" class="stop" role="alert">{{ problem }}</p>
      <p v-if="said" class="small" role="status">{{ said }}</p>
      <template v-if="made">
        <div class="print-head">
          <h1>{{ golfer?.profile.name }}: {{ title.charAt(0).toLowerCase() + title.slice(1) }}</h1>
          <p v-if="made.startAt" class="when" data-testid="when">
            Start at <b class="num">{{ made.startAt }}</b> to be on the tee at <b class="num">{{ made.onTeeAt }}</b>.
          </p>
        </div>
        <p class="only-screen sum" data-testid="sum">
          <b class="num"
            >{{ Math.floor(made.totalSeconds / 60) }}:{{ String(made.totalSeconds % 60).padStart(2, '0') }}</b
          >
          of {{ made.request.minutes }} minutes<template v-if="made.startAt"
            >. Start at <b class="num">{{ made.startAt }}</b> to be on the tee at
            <b class="num">{{ made.onTeeAt }}</b></template
          >.
        </p>
        <WarmUpStrip :warmup="made" :at="at" @choose="at = $event" />
        <ItemList
          :items="items"
          :at="at"
          :broken="broken"
          :alternatives="w.alternatives"
          @choose="at = $event"
          @move="w.move"
          @remove="w.remove"
          @swap="w.swap"
          @add="w.add"
          @change="w.change"
        />
        <p class="print-foot small">
          Not medical advice and no substitute for a licensed practitioner; local rules apply. Stop if anything hurts.
        </p>
      </template>
    </div>
    <RulesRail v-if="made" :warmup="made" :busy="busy" @mend="w.mend" @late="w.late" @choose="at = $event" />
    <AskFirst v-model="asking" title="Build it anew?" verb="Build anew" @yes="anew">
      What you moved, swapped and changed goes; Undo brings it back.
    </AskFirst>
    <v-dialog v-model="naming" max-width="420">
      <form class="box" @submit.prevent="keepIt">
        <h2>Keep this warm-up</h2>
        <v-text-field v-model="name" label="Name" maxlength="120" autofocus />
        <div class="row">
          <v-btn type="submit" variant="flat" color="action" :disabled="!name.trim()" :loading="keep.isPending.value"
            >Keep</v-btn
          >
          <v-btn @click="naming = false">Cancel</v-btn>
        </div>
      </form>
    </v-dialog>
    <TimedRunner v-model="running" :steps="steps" :title="title" />
  </div>
</template>

<style scoped>
.sum {
  margin: 14px 0 4px;
  font-size: 1.05rem;
}
.print-head,
.print-foot {
  display: none;
}
@media print {
  .print-head,
  .print-foot {
    display: block;
  }
  .only-screen {
    display: none;
  }
}
</style>
