export * from './room'
export * from './lead'
