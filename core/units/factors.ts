/** Exact or standard conversion factors to SI. */
export const MG_PER_LB = 453_592.37
export const MG_PER_OZ = 28_349.523125
export const MG_PER_G = 1_000
export const MG_PER_KG = 1_000_000
export const KG_PER_LB = 0.45359237

export const PA_PER_PSI = 6894.757293
export const PA_PER_INHG = 3386.389
export const PA_PER_BAR = 1e5
export const PA_PER_KPA = 1e3
export const PA_PER_MICRON = 0.133322368

export const M_PER_FT = 0.3048
export const M_PER_IN = 0.0254
export const M2_PER_FT2 = M_PER_FT ** 2
export const M3_PER_FT3 = M_PER_FT ** 3
export const ML_PER_US_FL_OZ = 29.5735296

export const ZERO_CELSIUS_K = 273.15
export const STANDARD_ATMOSPHERE_PA = 101_325
