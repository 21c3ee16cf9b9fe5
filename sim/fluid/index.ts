export { type Fluid, fluidOf, vapourDensityOf, vapourPa } from './fluid'
