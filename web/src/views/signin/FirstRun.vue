<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { computed, reactive } from 'vue'
import { useRouter } from 'vue-router'

import { api, ApiError, must } from '@/api/client'
import { keys } from '@/api/keys'
import { vFirst } from '@/keys/first'

import Gate from './Gate.vue'

const router = useRouter()
const client = useQueryClient()
const form = reactive({
  code: '',
  practice: '',
  zone: Intl.DateTimeFormat().resolvedOptions().timeZone || 'UTC',
  name: '',
  email: '',
  password: '',
})

const setup = useMutation({
  mutationFn: () => must(api.POST('/setup', { body: { ...form } })),
  onSuccess: (session) => {
    client.setQueryData(keys.session(), session)
    void router.replace('/')
  },
})
const wrong = computed(() => {
  const error = setup.error.value
  return Object.fromEntries(error instanceof ApiError ? error.fields.map((f) => [f.field, f.detail]) : [])
})
</script>

<template>
  <Gate title="First run">
    <p class="quiet">The one-time code stands in the terminal Dunnock was started in.</p>
    <form @submit.prevent="setup.mutate()">
      <v-text-field v-model="form.code" label="One-time code" name="code" v-first :error-messages="wrong.code" />
      <v-text-field
        v-model="form.practice"
        label="Name of the practice or club"
        name="practice"
        :error-messages="wrong.practice"
      />
      <v-text-field v-model="form.zone" label="Time zone" name="zone" :error-messages="wrong.zone" />
      <v-text-field
        v-model="form.name"
        label="Your name"
        name="name"
        autocomplete="name"
        :error-messages="wrong.name"
      />
      <v-text-field
        v-model="form.email"
        label="Email address"
        type="email"
        name="email"
        autocomplete="username"
        :error-messages="wrong.email"
      />
      <v-text-field
        v-model="form.password"
        label="Password, at least 10 characters"
        type="password"
        name="password"
        autocomplete="new-password"
        :error-messages="wrong.password"
      />
      <p v-if="setup.error.value && Object.keys(wrong).length === 0" class="stop" role="alert">
        {{ setup.error.value.message }}
      </p>
      <v-btn type="submit" variant="flat" color="action" :loading="setup.isPending.value">Start</v-btn>
    </form>
  </Gate>
</template>

<style scoped>
form {
  display: grid;
  gap: 14px;
}
</style>
