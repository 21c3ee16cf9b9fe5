import { fileURLToPath } from 'node:url'
import Postgrator from 'postgrator'
import postgres from 'postgres'

/** Any number, the same for all: migrations of one database run one after another. */
const MIGRATION_LOCK = 4_600_001

export interface DatabaseAddresses {
  /** A superuser; when given, missing roles and the database are made. */
  adminUrl?: string
  /** Role that owns the tables and runs migrations. */
  ownerUrl: string
  /** Role that the application uses. It owns nothing. */
  appUrl: string
}

/**
 * Makes roles and database where missing, then brings the schema up to date under an advisory lock.
 * @throws Error when a migration that has run was changed since: start over with a new database.
 */
export async function prepareDatabase({ adminUrl, ownerUrl, appUrl }: DatabaseAddresses): Promise<void> {
  if (adminUrl) await makeRolesAndDatabase(adminUrl, ownerUrl, appUrl)
  await migrate(ownerUrl)
}

async function makeRolesAndDatabase(adminUrl: string, ownerUrl: string, appUrl: string) {
  const maintenance = new URL(adminUrl)
  maintenance.pathname = '/postgres'
  const admin = postgres(maintenance.href, { max: 1, onnotice: () => {} })
  try {
    for (const url of [ownerUrl, appUrl]) {
      const { username, password } = new URL(url)
      const [known] = await admin`select 1 from pg_roles where rolname = ${username}`
      const verb = known ? 'alter' : 'create'
      await admin.unsafe(`${verb} role "${username}" login password '${password.replaceAll("'", "''")}'`)
    }
    const database = new URL(ownerUrl).pathname.slice(1)
    const [there] = await admin`select 1 from pg_database where datname = ${database}`
    if (!there)
      await admin`create database ${admin(database)} owner ${admin(new URL(ownerUrl).username)} template template0 encoding 'UTF8'`
  } finally {
    await admin.end()
  }
}

async function migrate(ownerUrl: string) {
  const sql = postgres(ownerUrl, { max: 1, onnotice: () => {} })
  try {
    await sql`select pg_advisory_lock(${MIGRATION_LOCK})`
    const postgrator = new Postgrator({
      migrationPattern: fileURLToPath(new URL('./migrations/*', import.meta.url)),
      driver: 'pg',
      schemaTable: 'public.schema_version',
      validateChecksums: true,
      execQuery: async (query: string) => ({ rows: await sql.unsafe(query) }),
      execSqlScript: async (script: string) => {
        await sql.begin((tx) => tx.unsafe(script))
      },
    } as ConstructorParameters<typeof Postgrator>[0])
    await postgrator.migrate()
  } finally {
    await sql.end()
  }
}
