export * from './card'
