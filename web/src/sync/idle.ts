const latestMs = 2000

/** Resolves when the page has nothing better to do. */
export const idle = () =>
  new Promise<unknown>((resolve) =>
    'requestIdleCallback' in globalThis
      ? requestIdleCallback(resolve, { timeout: latestMs })
      : setTimeout(resolve, 100),
  )
