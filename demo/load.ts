// Loads the harbour co-operative once, into an empty database. Used by ./keg demo.
import { closeDatabase, nobodyYet } from '#db'
import { loadHarbour, loadToken } from './harbour'

const now = process.env.KEG_NOW ? new Date(process.env.KEG_NOW) : new Date()
if (await nobodyYet()) {
  console.log('[keg] Loading the demo data')
  await loadHarbour(now)
}
if (process.env.KEG_DEMO_TOKEN) await loadToken(process.env.KEG_DEMO_TOKEN, now)
await closeDatabase()
