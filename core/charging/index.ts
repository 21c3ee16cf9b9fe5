export * from './target'
