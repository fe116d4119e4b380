export * from './steady'
