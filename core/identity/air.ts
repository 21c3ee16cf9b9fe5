export interface AirShare {
  /** Partial pressure of what is not refrigerant, Pa. */
  airPa: number
  sigmaPa: number
  /** Share of the moles of the vapour, 0 to 1: not of all that is in the vessel. */
  ofVapour: number
}

/**
 * Air in a vessel at rest that holds liquid: what the pressure has above saturation at the same temperature.
 * Sun on one side of a cylinder looks the same.
 * @param saturationPa bubble pressure at the vessel's temperature, absolute
 */
export function airShare(pressurePa: number, saturationPa: number, sigmaPa: number): AirShare {
  const airPa = Math.max(0, pressurePa - saturationPa)
  return { airPa, sigmaPa, ofVapour: airPa / pressurePa }
}
