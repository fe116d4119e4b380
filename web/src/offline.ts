import { useNotices } from './state/notices'

/**
 * Lets the browser keep the page's files, so that it opens and reloads while the server is away. A newer release waits
 * until the person takes it: nothing changes under their hands.
 */
export async function keepForOffline(): Promise<void> {
  if (!('serviceWorker' in navigator)) return
  const { registerSW } = await import('virtual:pwa-register')
  const notices = useNotices()
  const take = registerSW({
    onNeedRefresh: () =>
      notices.offer('A newer release of Iron Hush is here.', 'Reload', () => void take(true)),
    // without it the page works as before, as long as the server is there
    onRegisterError: () => undefined,
  })
}
