export * from './a-filter'
export * from './channel-meter'
export * from './measure-wav'
export * from './compare'
