export * from './csv'
export * from './sound-report'
export * from './answers'
