<script setup lang="ts">
import LateMenu from '@/parts/LateMenu.vue'

import { savePng, saveSvg } from './savePicture'
import type { Recording } from './useForce'

/** Undo, exports and removal of one recording. */
const props = defineProps<{
  recording: Recording
  svg: () => SVGSVGElement | undefined
  busy: boolean
  canUndo: boolean
}>()
const emit = defineEmits<{ undo: []; remove: [] }>()
const stem = () => props.recording.name.replace(/\.[^.]*$/, '')
function picture(kind: 'png' | 'svg') {
  const svg = props.svg()
  if (!svg) return
  if (kind === 'svg') saveSvg(svg, stem())
  else void savePng(svg, stem())
}
const at = (format: string) => `/api/v1/recordings/${props.recording.id}/exports/${format}`
</script>

<template>
  <div class="row no-print">
    <span v-if="props.busy" class="small quiet" role="status">Reading anew …</span>
    <v-btn size="small" :disabled="!props.canUndo" @click="emit('undo')">Undo move</v-btn>
    <LateMenu>
      <template #activator="{ props: menu }"><v-btn size="small" v-bind="menu">Export…</v-btn></template>
      <div class="box">
        <v-btn @click="picture('png')">Picture, PNG</v-btn>
        <v-btn @click="picture('svg')">Drawing, SVG</v-btn>
        <v-btn :href="at('csv')" download>Signals, CSV</v-btn>
        <v-btn :href="at('json')" download>Numbers, JSON</v-btn>
        <v-btn :href="at('raw')" download>The file as it came</v-btn>
      </div>
    </LateMenu>
    <LateMenu>
      <template #activator="{ props: menu }"><v-btn size="small" v-bind="menu">Remove…</v-btn></template>
      <div class="box">
        <span class="small">Removes {{ props.recording.name }} and what it put in the screen.</span>
        <v-btn color="error" @click="emit('remove')">Remove it</v-btn>
      </div>
    </LateMenu>
  </div>
</template>
