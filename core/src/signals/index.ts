export * from './random'
export * from './sounds'
