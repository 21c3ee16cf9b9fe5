export { type Channel, type SensorChanges, type Sensors, sensorsOf, sensorsWith } from './sensors'
