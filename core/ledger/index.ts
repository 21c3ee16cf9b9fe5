export * from './movement'
export * from './differences'
