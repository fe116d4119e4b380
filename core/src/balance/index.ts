export * from './objective'
export * from './search'
export * from './balance'
