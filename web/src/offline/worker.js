/* global self, caches, fetch, URL, __FILES__ */
/* The service worker: keeps the shell (pages, scripts, styles, fonts) of one version, so that Dunnock opens without a
   network. Answers of the server are not its business: what a view may show offline is kept by the view
   (offline/kept.ts). __FILES__ and __VERSION__ are written in when Dunnock is built. */
const version = '__VERSION__'
const files = __FILES__
const cacheName = `dunnock-shell-${version}`

self.addEventListener('install', (e) => {
  e.waitUntil(caches.open(cacheName).then((c) => c.addAll(['/', ...files])))
})
/* It takes over when the page says so, never in the middle of a session. */
self.addEventListener('message', (e) => {
  if (e.data === 'take over') void self.skipWaiting()
})
self.addEventListener('activate', (e) => {
  e.waitUntil(
    caches
      .keys()
      .then((names) =>
        Promise.all(
          names.filter((n) => n.startsWith('dunnock-shell-') && n !== cacheName).map((n) => caches.delete(n)),
        ),
      )
      .then(() => self.clients.claim()),
  )
})
self.addEventListener('fetch', (e) => {
  const url = new URL(e.request.url)
  if (e.request.method !== 'GET' || url.origin !== self.location.origin || url.pathname.startsWith('/api/')) return
  const shell = e.request.mode === 'navigate'
  if (!shell && !files.includes(url.pathname)) return
  e.respondWith(
    caches
      .open(cacheName)
      .then((c) => c.match(shell ? '/' : url.pathname))
      .then((kept) => kept ?? fetch(e.request)),
  )
})
