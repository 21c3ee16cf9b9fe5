export * from './movement'
export * from './differences'
export * from './sheet'
export * from './conservation'
