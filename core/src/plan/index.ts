export * from './scenarios'
export * from './unknown-cameras'
export * from './plan'
export * from './suggest'
