<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import { api, must } from '@/api/client'
import { keys } from '@/api/keys'
import { vFirst } from '@/keys/first'

import Gate from './Gate.vue'

const router = useRouter()
const route = useRoute()
const client = useQueryClient()
const email = ref('')
const password = ref('')

const { data: setup } = useQuery({ queryKey: keys.setup(), queryFn: () => must(api.GET('/setup')) })

const signIn = useMutation({
  mutationFn: () => must(api.POST('/session', { body: { email: email.value, password: password.value } })),
  onSuccess: (session) => {
    client.setQueryData(keys.session(), session)
    const next = route.query.next
    void router.replace(typeof next === 'string' && next.startsWith('/') && !next.startsWith('//') ? next : '/')
  },
})
</script>

<template>
  <Gate title="Sign in">
    <form @submit.prevent="signIn.mutate()">
      <v-text-field v-model="email" label="Email address" type="email" autocomplete="username" v-first name="email" />
      <v-text-field
        v-model="password"
        label="Password"
        type="password"
        autocomplete="current-password"
        name="password"
      />
      <p v-if="signIn.error.value" class="stop" role="alert">{{ signIn.error.value.message }}</p>
      <v-btn type="submit" variant="flat" color="action" :loading="signIn.isPending.value">Sign in</v-btn>
      <p v-if="setup?.demo" class="small quiet">
        This is the demo. Its sign-in stands in the terminal Dunnock was started in.
      </p>
      <p v-if="setup?.needed"><router-link to="/first-run">Nobody can sign in yet: do the first run</router-link></p>
    </form>
  </Gate>
</template>

<style scoped>
form {
  display: grid;
  gap: 14px;
}
</style>
