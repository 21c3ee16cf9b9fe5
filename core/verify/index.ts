export * from './superheat'
export * from './orifice-target'
export * from './vent'
export * from './pattern'
