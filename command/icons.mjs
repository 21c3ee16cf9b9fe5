// Makes the icons of the home screen from the one drawing: node command/icons.mjs, after public/keg.svg has changed.
import { readFileSync } from 'node:fs'
import sharp from 'sharp'

const drawing = readFileSync('public/keg.svg', 'utf8')
const GROUND = '#27221c'
/** What a launcher may cut off lies outside of four fifths. */
const SAFE = 0.72

const at = (size) => sharp(Buffer.from(drawing), { density: (72 * size) / 32 }).resize(size, size)
const square = drawing.replace(' rx="6"', '')
const inner = await sharp(Buffer.from(square), { density: (72 * 512) / 32 })
  .resize(Math.round(512 * SAFE), Math.round(512 * SAFE))
  .toBuffer()
await at(192).png().toFile('public/icons/keg-192.png')
await at(512).png().toFile('public/icons/keg-512.png')
const maskable = sharp({ create: { width: 512, height: 512, channels: 3, background: GROUND } }).composite([
  { input: inner },
])
await maskable.png().toFile('public/icons/keg-maskable-512.png')
await sharp(await maskable.png().toBuffer())
  .resize(180, 180)
  .png()
  .toFile('public/icons/keg-180.png')
