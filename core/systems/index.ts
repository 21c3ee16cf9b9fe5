export * from './system'
export * from './expected'
export * from './drier'
export * from './explain'
