export * from './byte-source'
export * from './wav-header'
export * from './samples'
export * from './write-wav'
