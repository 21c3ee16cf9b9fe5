export * from './system'
export * from './expected'
