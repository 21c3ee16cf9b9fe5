// Loads the harbour co-operative once, into an empty database. Used by ./keg demo.
import { writeFileSync } from 'node:fs'
import { closeDatabase, nobodyYet } from '#db'
import { loadHarbour, loadToken } from './harbour'

const now = process.env.KEG_NOW ? new Date(process.env.KEG_NOW) : new Date()
if (await nobodyYet()) {
  console.log('[keg] Loading the demo data')
  const gateway = await loadHarbour(now)
  // Its tokens are shown to nobody else.
  if (process.env.KEG_GATEWAY_FILE)
    writeFileSync(process.env.KEG_GATEWAY_FILE, JSON.stringify(gateway, undefined, 2), { mode: 0o600 })
}
if (process.env.KEG_DEMO_TOKEN) await loadToken(process.env.KEG_DEMO_TOKEN, now)
await closeDatabase()
