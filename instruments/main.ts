// The stand-in gateway: plays rigs, and posts what their instruments say to the public interface, as a real one would.
// node --import tsx instruments/main.ts CONFIG.json [--drain: send what waits, say nothing more, and end]
import { setMaxListeners } from 'node:events'
import { readFileSync } from 'node:fs'
import { dirname, resolve } from 'node:path'
import Joi from 'joi'
import { deviceOf } from './device'
import { type RigSetup, rigOf } from './rig'
import { type StationConfig, stationRig } from './station'
import { deviceAt } from './server'

interface Config {
  server: string
  /** Where what waits is kept, beside this file unless it is absolute. */
  spool: string
  devices: ((RigSetup | StationConfig) & {
    deviceId: string
    token: string
    everyMs: number
    firstSeq: number
  })[]
}

const CONFIG = Joi.object<Config>({
  server: Joi.string()
    .uri({ scheme: ['http', 'https'] })
    .required(),
  spool: Joi.string().default('spool'),
  devices: Joi.array()
    .items(
      Joi.object({
        deviceId: Joi.string().uuid().required(),
        token: Joi.string().required(),
        scenario: Joi.string(),
        station: Joi.object(),
        seed: Joi.number().integer().default(1),
        speed: Joi.number().min(1).max(60).default(1),
        aheadS: Joi.number().min(0).default(0),
        firstSeq: Joi.number().integer().min(0).default(0),
        everyMs: Joi.number().integer().min(100).max(60_000).default(500),
        channels: Joi.array().items(Joi.string()).min(1).required(),
        sensors: Joi.object().default({}),
      }).xor('scenario', 'station'),
    )
    .min(1)
    .required(),
})

const file = resolve(process.argv[2] ?? 'gateway.json')
const { value: config, error } = CONFIG.validate(JSON.parse(readFileSync(file, 'utf8')))
if (error) {
  console.error(`${file}: ${error.message}`)
  process.exit(1)
}
const server = process.env.KEG_GATEWAY_SERVER ?? config.server
const folder = resolve(dirname(file), config.spool)
const ending = new AbortController()
for (const signal of ['SIGINT', 'SIGTERM'] as const) process.on(signal, () => ending.abort())
// Whoever started it is gone: it goes, too, however that ended.
const startedBy = process.ppid
setInterval(() => {
  if (process.ppid !== startedBy) ending.abort()
}, 1_000).unref()
// Every loop of every device listens for it.
setMaxListeners(0, ending.signal)
const say = (text: string) => console.error(`gateway: ${text}`)
await Promise.all(
  config.devices.map((each) => {
    const keptIn = resolve(folder, `${each.deviceId}.rig`)
    const rig =
      'station' in each
        ? stationRig(each, keptIn, Date.now)
        : rigOf(each, resolve(dirname(file), each.scenario), keptIn)
    const { deviceId, everyMs, firstSeq } = each
    const setup = { deviceId, folder, everyMs, firstSeq, clock: Date.now, say }
    const device = deviceOf(setup, rig, deviceAt(server, each.deviceId, each.token))
    return process.argv.includes('--drain') ? device.drain(ending.signal) : device.run(ending.signal)
  }),
)
