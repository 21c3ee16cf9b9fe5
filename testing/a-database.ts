// A database of its own on the server that the tests have: for what always has the same ids.
import postgres from 'postgres'
import { afterAll, beforeAll } from 'vitest'
import { closeDatabase } from '#db'
import { prepareDatabase } from '../db/migrate'

/** Made before the tests of a file, and dropped after them. @param fill what stands in it */
export function ownDatabase(name: string, fill: () => Promise<unknown>): void {
  const at = (url: string) => Object.assign(new URL(url), { pathname: `/${name}` }).href
  async function drop() {
    const admin = postgres(process.env.KEG_ADMIN_DATABASE_URL!.replace(/\/[^/]*$/, '/postgres'), { max: 1 })
    await admin.unsafe(`drop database if exists ${name}`)
    await admin.end()
  }
  beforeAll(async () => {
    await drop()
    const addresses = {
      adminUrl: at(process.env.KEG_ADMIN_DATABASE_URL!),
      ownerUrl: at(process.env.KEG_OWNER_DATABASE_URL!),
      appUrl: at(process.env.KEG_DATABASE_URL!),
    }
    await prepareDatabase(addresses)
    process.env.KEG_DATABASE_URL = addresses.appUrl
    await fill()
  })
  afterAll(async () => {
    await closeDatabase()
    await drop()
  })
}
