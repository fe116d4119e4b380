export * from './render'
export * from './rendering'
export * from './voices'
export * from './timeline'
