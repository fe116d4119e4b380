export * from './render'
export * from './voices'
