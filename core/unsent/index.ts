export * from './books'
