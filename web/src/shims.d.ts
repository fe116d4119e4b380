/// <reference types="vite/client" />
/// <reference types="vite-plugin-pwa/client" />
declare module '@fontsource-variable/archivo/standard.css'
declare module '@fontsource-variable/martian-mono/standard.css'
/** The release that was built. */
declare const __RELEASE__: string
