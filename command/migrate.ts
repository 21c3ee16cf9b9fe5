// Makes the database and its roles when they are missing, then runs the migrations. Used by ./keg.
import { prepareDatabase } from '../db/migrate'

try {
  await prepareDatabase(
    {
      adminUrl: process.env.KEG_ADMIN_DATABASE_URL,
      ownerUrl: process.env.KEG_OWNER_DATABASE_URL ?? missing('KEG_OWNER_DATABASE_URL'),
      appUrl: process.env.KEG_DATABASE_URL ?? missing('KEG_DATABASE_URL'),
    },
    undefined,
    (what) => console.log(`[keg] ${what}`),
  )
} catch (error) {
  console.error(error instanceof Error ? error.message : error)
  process.exit(1)
}

function missing(name: string): never {
  throw new Error(`${name} is not set: give the address of the database as ${name}`)
}
