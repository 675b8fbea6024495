<script setup lang="ts">
import { useMagicKeys, whenever } from '@vueuse/core'
import { computed, ref, watch } from 'vue'

import Folded from '@/parts/Folded.vue'
import AskFirst from '@/parts/AskFirst.vue'
import { download, fileName } from '@/parts/download'
import TimedRunner from '@/parts/TimedRunner.vue'
import { useTurns } from '@/parts/turns'
import WarmUpStrip from '@/plots/WarmUpStrip.vue'

import ItemList from './ItemList.vue'
import RequestForm from './RequestForm.vue'
import RulesRail from './RulesRail.vue'
import { stepsOf } from './steps'
import type { Bench } from './useWarmUp'

/** A warm-up on the bench: asked for, built, changed by hand, judged, run and taken along. */
const props = defineProps<{
  bench: Bench
  heading: string
  /** Whose it is, on paper. */
  whose: string
  group: boolean
}>()
const w = props.bench
const { made, problem, busy, items, wanted, asking } = w
const at = ref('')
/** Drawn so far: what can be done with it, what is asked for, and of a warm-up its strip, its items, the rules beside it. */
const drawn = useTurns(() => (made.value ? 5 : 2))
const broken = computed(
  () => new Set(made.value?.rules.filter((r) => r.status === 'broken' && r.item).map((r) => r.item ?? '') ?? []),
)
watch(items, (all) => {
  if (!all.some((i) => i.id === at.value)) at.value = ''
})
const running = ref(false)
const steps = computed(() => stepsOf(items.value))
const print = () => window.print()
const said = ref('')
async function card() {
  said.value = ''
  try {
    download(await w.card(), `warm-up-${fileName(props.whose)}.pdf`)
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
        <h1>{{ props.heading }}</h1>
        <div class="row">
          <Folded>
            <slot name="kept" />
            <v-btn size="small" :disabled="!w.canUndo.value" @click="w.undo()">Undo</v-btn>
            <v-btn size="small" :disabled="!w.canRedo.value" @click="w.redo()">Redo</v-btn>
            <slot name="keep" />
            <v-btn size="small" :disabled="!made" @click="print">Print</v-btn>
            <v-btn size="small" :disabled="!made" @click="card">PDF</v-btn>
          </Folded>
          <v-btn size="small" variant="flat" color="action" :disabled="!steps.length" @click="running = true"
            >Run it</v-btn
          >
        </div>
      </div>
      <slot name="who" />
      <RequestForm v-if="drawn > 1" v-model="wanted" class="no-print" :group="props.group" />
      <p v-if="problem || said" class="stop" role="alert">{{ problem || said }}</p>
      <slot />
      <template v-if="made && drawn > 2">
        <div class="print-head">
          <h1>{{ props.whose }}: {{ title.charAt(0).toLowerCase() + title.slice(1) }}</h1>
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
        <ul v-if="props.group && made.notes.length" class="notes" data-testid="group-notes">
          <li v-for="n in made.notes" :key="n">{{ n }}</li>
        </ul>
        <ItemList
          v-if="drawn > 3"
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
    <RulesRail
      v-if="made && drawn > 4"
      :warmup="props.group ? { ...made, notes: [] } : made"
      :busy="busy"
      @mend="w.mend"
      @late="w.late"
      @choose="at = $event"
    />
    <AskFirst v-model="asking" title="Build it anew?" verb="Build anew" @yes="w.anew">
      What you moved, swapped and changed goes; Undo brings it back.
    </AskFirst>
    <TimedRunner v-model="running" :steps="steps" :title="title" />
  </div>
</template>

<style scoped>
.sum {
  margin: 14px 0 4px;
  font-size: 1.05rem;
}
.notes {
  margin: 8px 0 14px;
  padding-left: 18px;
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
