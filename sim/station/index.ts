export { type Said, type Station, stationOf } from './station'
export type { StationSetup, StationState } from './state'
export type { VehicleSetup } from './vehicle'
