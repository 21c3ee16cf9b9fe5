export * from './superheat'
