export * from './hold'
