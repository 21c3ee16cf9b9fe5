export * from './pressure-hold'
export * from './leak-rate'
export * from './rules'
