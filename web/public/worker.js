/*
 * Keeps the application on the device, so that Watch and the family's card open while nothing answers: the page and its assets,
 * and the last answers about a design. What the server says always comes first; only where it is silent the kept word stands in.
 */
const ASSETS = '__ASSETS__'
const SHELL = 'hearth-keep-__BUILD__'
const SAID = 'hearth-keep-said'
/** Answers that are kept, by their address: the design, its installations, the card. */
const KEPT = /^\/api\/designs\/[0-9a-f-]{36}(\/(installations|family-card|alternatives))?$/
/** Says of an answer that it is an old one. */
const KEPT_MARK = 'X-Hearth-Keep-Kept'
/** A page that has not come within this is taken from the device [ms]. */
const PATIENCE_MS = 4_000
/** Under this address the page itself is kept: it is the same at every address. */
const PAGE = '/'

self.addEventListener('install', (event) => {
  event.waitUntil(
    caches
      .open(SHELL)
      .then((cache) => cache.addAll([PAGE, ...ASSETS]))
      .then(() => self.skipWaiting()),
  )
})

self.addEventListener('activate', (event) => {
  event.waitUntil(
    caches
      .keys()
      .then((names) =>
        Promise.all(
          names.filter((name) => name !== SHELL && name !== SAID).map((name) => caches.delete(name)),
        ),
      )
      .then(() => self.clients.claim()),
  )
})

async function fresh(request, patience_ms) {
  const stop = new AbortController()
  const timer = patience_ms ? setTimeout(() => stop.abort(), patience_ms) : undefined
  try {
    return await fetch(request, { signal: stop.signal })
  } finally {
    clearTimeout(timer)
  }
}

/** The page: from the server, or as it was kept; where neither is to be had, the browser says so. */
async function page(request) {
  const cache = await caches.open(SHELL)
  try {
    return await fresh(request, PATIENCE_MS)
  } catch (error) {
    const kept = await cache.match(PAGE)
    if (kept) return kept
    throw error
  }
}

/** Assets never change under their names. */
async function asset(request) {
  const kept = await caches.match(request)
  return kept ?? fetch(request)
}

/** An answer about a design: what the server says is kept; where it is silent, what it said last. */
async function said(request) {
  const cache = await caches.open(SAID)
  try {
    const answer = await fetch(request)
    if (answer.ok) await cache.put(request, answer.clone())
    else if (answer.status === 404) await cache.delete(request)
    return answer
  } catch (error) {
    const kept = await cache.match(request)
    if (!kept) throw error
    const headers = new Headers(kept.headers)
    headers.set(KEPT_MARK, 'yes')
    return new Response(await kept.blob(), { status: kept.status, headers })
  }
}

self.addEventListener('fetch', (event) => {
  const { request } = event
  const address = new URL(request.url)
  if (request.method !== 'GET' || address.origin !== self.location.origin) return
  if (request.mode === 'navigate') event.respondWith(page(request))
  else if (address.pathname.startsWith('/assets/')) event.respondWith(asset(request))
  else if (KEPT.test(address.pathname)) event.respondWith(said(request))
})
