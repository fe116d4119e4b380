/// <reference types="vite/client" />
declare module '@fontsource-variable/archivo/standard.css'
declare module '@fontsource-variable/martian-mono/standard.css'
