export * from './station'
export * from './steps'
