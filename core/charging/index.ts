export * from './target'
export * from './from-cylinder'
