import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'

import { api, must, type Schemas } from '@/api/client'
import { keys } from '@/api/keys'

/** The largest file that is taken, docs/formats.md. */
export const MAX_BYTES = 12 << 20

export function useUploads() {
  return useQuery({ queryKey: keys.uploads(), queryFn: () => must(api.GET('/uploads')) })
}

/** One file on its way in: uploaded, mapped, checked, saved, perhaps taken back. */
export function useUpload() {
  const client = useQueryClient()
  const id = ref('')
  const busy = (u: Schemas['Upload'] | undefined) => u?.state === 'checking' || u?.state === 'saving'
  const { data: upload } = useQuery({
    queryKey: keys.upload(id),
    queryFn: () => must(api.GET('/uploads/{uploadId}', { params: { path: { uploadId: id.value } } })),
    enabled: () => id.value !== '',
    refetchInterval: (q) => (busy(q.state.data) ? 300 : false),
  })
  const path = () => ({ params: { path: { uploadId: id.value } } })
  const take = (u: Schemas['Upload']) => {
    client.setQueryData(keys.upload(u.id), u)
    void client.invalidateQueries({ queryKey: keys.upload(u.id) })
  }
  const send = useMutation({
    mutationFn: async (file: File) =>
      must(
        api.POST('/uploads', {
          params: { query: { name: file.name } },
          headers: { 'Content-Type': 'application/octet-stream' },
          body: '' as string,
          bodySerializer: () => file,
        }),
      ),
    onSuccess: (u) => {
      client.setQueryData(keys.upload(u.id), u)
      id.value = u.id
      void client.invalidateQueries({ queryKey: keys.uploads() })
    },
  })
  const lay = useMutation({
    mutationFn: (body: Schemas['Layout']) => must(api.PUT('/uploads/{uploadId}/layout', { ...path(), body })),
    onSuccess: take,
  })
  const check = useMutation({
    mutationFn: (body: Schemas['Mapping']) => must(api.POST('/uploads/{uploadId}/check', { ...path(), body })),
    onSuccess: take,
  })
  const commit = useMutation({
    mutationFn: (keepUnlikely: boolean) =>
      must(api.POST('/uploads/{uploadId}/commit', { ...path(), body: { keepUnlikely } })),
    onSuccess: take,
  })
  const cancel = useMutation({ mutationFn: () => must(api.POST('/uploads/{uploadId}/cancel', path())) })
  const undo = useMutation({
    mutationFn: (uploadId: string) => must(api.POST('/uploads/{uploadId}/undo', { params: { path: { uploadId } } })),
    onSuccess: (u) => {
      take(u)
      void client.invalidateQueries()
    },
  })
  // When it has ended, everything computed from results is asked for again.
  watch(
    () => upload.value?.state,
    (now, before) => {
      if (before === 'saving' && now !== 'saving') void client.invalidateQueries()
      else if (now !== before) void client.invalidateQueries({ queryKey: keys.uploads() })
    },
  )
  const running = computed(() => busy(upload.value))
  return { id, upload, running, send, lay, check, commit, cancel, undo }
}
