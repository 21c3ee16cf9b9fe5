export * from './hold'
export * from './evacuation'
