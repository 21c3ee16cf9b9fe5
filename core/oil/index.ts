export * from './balance'
