export * from './hose'
export * from './conductance'
export * from './hold-up'
