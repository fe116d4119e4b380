import { useNotices } from './state/notices'

/**
 * Lets the browser keep the page's files, so that it opens and reloads while the server is away. A newer release waits
 * until the person takes it: nothing changes under their hands.
 */
export async function keepForOffline(): Promise<void> {
  // the development server has no service worker
  if (!('serviceWorker' in navigator) || !import.meta.env.PROD) return
  const { Workbox } = await import('workbox-window')
  const notices = useNotices()
  const worker = new Workbox('/sw.js')
  worker.addEventListener('waiting', () =>
    notices.offer('A newer release of Iron Hush is here.', 'Reload', () => {
      worker.addEventListener('controlling', () => location.reload())
      worker.messageSkipWaiting()
    }),
  )
  // without it the page works while the server is reachable
  await worker.register().catch(() => undefined)
}
