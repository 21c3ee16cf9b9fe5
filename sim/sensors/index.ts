export { type SensorChanges, type Sensors, sensorsOf, sensorsWith } from './sensors'
