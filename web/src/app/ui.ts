import { useStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'

/** What the foot strip says about the last thing typed. */
export type SaveState = 'idle' | 'saving' | 'saved' | 'unsent' | 'refused'

/** State of the interface that no view owns: the foot strip and the rail. */
export const useUi = defineStore('ui', () => {
  const save = ref<SaveState>('idle')
  const saveText = ref('')
  const rail = useStorage<'open' | 'closed'>('dunnock.rail', 'open')
  const railOpen = computed(() => rail.value !== 'closed')

  function setSave(state: SaveState, text = '') {
    save.value = state
    saveText.value = text
  }
  function toggleRail() {
    rail.value = railOpen.value ? 'closed' : 'open'
  }
  return { save, saveText, railOpen, setSave, toggleRail }
})
