export * from './saturation'
export * from './catalogue'
export type { RefrigerantFacts, SafetyClass } from './facts'
export * from './vapour'
