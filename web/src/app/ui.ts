import { defineStore } from 'pinia'
import { ref } from 'vue'

/** What the foot strip says about the last thing typed. */
export type SaveState = 'idle' | 'saving' | 'saved' | 'unsent' | 'refused'

/** State of the interface that no view owns: the foot strip and the rail. */
export const useUi = defineStore('ui', () => {
  const save = ref<SaveState>('idle')
  const saveText = ref('')
  const railOpen = ref(localStorage.getItem('dunnock.rail') !== 'closed')

  function setSave(state: SaveState, text = '') {
    save.value = state
    saveText.value = text
  }
  function toggleRail() {
    railOpen.value = !railOpen.value
    localStorage.setItem('dunnock.rail', railOpen.value ? 'open' : 'closed')
  }
  return { save, saveText, railOpen, setSave, toggleRail }
})
