export * from './identify'
export * from './air'
