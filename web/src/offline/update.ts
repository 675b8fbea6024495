import { defineStore } from 'pinia'
import { ref } from 'vue'

/**
 * Dunnock as an application on the device: whether it can be, whether a newer version waits, and taking that over when
 * the coach says so, never while a session runs.
 */
export const useUpdate = defineStore('update', () => {
  const waiting = ref<ServiceWorker>()
  /** A session runs: nothing is taken over. */
  const busy = ref(false)
  /** What this page cannot do without a secure address; '' where it can. */
  const cannot = ref('')

  async function register() {
    if (!('serviceWorker' in navigator)) {
      cannot.value = globalThis.isSecureContext
        ? 'This browser keeps no application: without a network Dunnock does not open.'
        : 'This address is not secure (https): Dunnock cannot be installed, and does not open without a network. What is typed is kept all the same.'
      return
    }
    try {
      const r = await navigator.serviceWorker.register('/worker.js')
      const look = () => {
        if (r.waiting && navigator.serviceWorker.controller) waiting.value = r.waiting
      }
      look()
      r.addEventListener('updatefound', () => r.installing?.addEventListener('statechange', look))
    } catch {
      cannot.value = 'Dunnock could not be kept on this device: without a network it does not open.'
    }
  }
  function takeOver() {
    if (busy.value) return
    navigator.serviceWorker.addEventListener('controllerchange', () => location.reload(), { once: true })
    waiting.value?.postMessage('take over')
  }
  return { waiting, busy, cannot, register, takeOver }
})
