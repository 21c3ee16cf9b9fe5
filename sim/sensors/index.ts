export { type Channel, type SensorSetup, type Sensors, sensorsOf, USUAL_SENSORS } from './sensors'
