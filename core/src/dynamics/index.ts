export * from './steady'
export * from './follow'
