import { pino } from 'pino'

export const log = pino({ name: 'keg', level: process.env.KEG_LOG ?? 'info' })
