export * from './books'
export * from './kit'
