export * from './balance'
export * from './parts'
export * from './oil-type'
