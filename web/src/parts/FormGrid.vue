<script setup lang="ts">
import { InTurns } from './InTurns'

/** Fields beside each other, as many as fit, drawn in turns: so high is one that is not there yet. */
const FIELD_PX = 40
</script>

<template>
  <div class="form-grid">
    <InTurns :place="FIELD_PX"><slot /></InTurns>
  </div>
</template>
