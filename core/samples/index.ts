export * from './channels'
export * from './downsample'
export * from './live'
export * from './range'
