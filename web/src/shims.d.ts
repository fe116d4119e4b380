/// <reference types="vite/client" />
declare module '@fontsource-variable/archivo/standard.css'
declare module '@fontsource-variable/martian-mono/standard.css'
/** The release that was built. */
declare const __RELEASE__: string
/** Files that the service worker keeps (keep-files.ts). */
declare const __KEPT_FILES__: { url: string; revision: string | null }[]
