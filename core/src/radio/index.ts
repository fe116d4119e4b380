export * from './sets'
export * from './margin'
export * from './intermodulation'
