export * from './compare'
export * from './end-level'
export * from './rebound'
export * from './time-left'
