export * from './uncertainty'
