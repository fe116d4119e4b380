export * from './csv'
export * from './sound-report'
