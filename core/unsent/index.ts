export * from './books'
export * from './kit'
export * from './system'
