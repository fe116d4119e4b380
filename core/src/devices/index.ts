export * from './device'
export * from './stand-in'
export * from './mark-level'
export * from './sound-of-step'
