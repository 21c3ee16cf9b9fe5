export { readVin, type Vin } from './vin'
