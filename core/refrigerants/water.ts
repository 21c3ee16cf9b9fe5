/**
 * Saturation pressure over water (over ice below 0 C), Pa: Magnus formulas of the meteorological standard (WMO, 2008),
 * within 0.5 % from -45 to 60 C.
 */
export function waterPa(tempK: number): number {
  const c = tempK - 273.15
  return c >= 0 ? 611.2 * Math.exp((17.62 * c) / (243.12 + c)) : 611.2 * Math.exp((22.46 * c) / (272.62 + c))
}
