export * from './objective'
export * from './free-control'
export * from './search'
export * from './balance'
