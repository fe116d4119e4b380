export * from './sets'
export * from './margin'
export * from './intermodulation'
export * from './dropouts'
