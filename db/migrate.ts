import { fileURLToPath } from 'node:url'
import Postgrator from 'postgrator'
import postgres from 'postgres'
import { partsOf, severalHosts, withDatabase } from './address'

/** Any number, the same for all: migrations of one database run one after another. */
const MIGRATION_LOCK = 4_600_001

export interface DatabaseAddresses {
  /** A superuser; when given, missing roles and the database are made. */
  adminUrl?: string | undefined
  /** Role that owns the tables and runs migrations. */
  ownerUrl: string
  /** Role that the application uses. It owns nothing. */
  appUrl: string
}

/**
 * Makes roles and database where missing, then brings the schema up to date under an advisory lock.
 * @param upTo number of the last migration to run, for tests of upgrades
 * @param tell what is done, before it is done
 * @throws Error when a migration that has run was changed since: start over with a new database.
 */
export async function prepareDatabase(
  { adminUrl, ownerUrl, appUrl }: DatabaseAddresses,
  upTo?: string,
  tell: (what: string) => void = () => {},
): Promise<void> {
  if (adminUrl) await makeRolesAndDatabase(adminUrl, ownerUrl, appUrl)
  await migrate(ownerUrl, tell, upTo)
}

const primaryOf = (url: string) => (severalHosts(url) ? { target_session_attrs: 'primary' as const } : {})

async function makeRolesAndDatabase(adminUrl: string, ownerUrl: string, appUrl: string) {
  const admin = postgres(withDatabase(adminUrl, 'postgres'), {
    max: 1,
    onnotice: () => {},
    ...primaryOf(adminUrl),
  })
  try {
    for (const url of [ownerUrl, appUrl]) {
      const { user, password } = partsOf(url)
      const [known] = await admin`select 1 from pg_roles where rolname = ${user}`
      const verb = known ? 'alter' : 'create'
      await admin.unsafe(`${verb} role "${user}" login password '${password.replaceAll("'", "''")}'`)
    }
    const { user: owner, database } = partsOf(ownerUrl)
    const [there] = await admin`select 1 from pg_database where datname = ${database}`
    if (!there)
      await admin`create database ${admin(database)} owner ${admin(owner)} template template0 encoding 'UTF8'`
  } finally {
    await admin.end()
  }
}

/** All that is due, each with its mark, in one transaction: killed half-way, nothing has happened. */
async function migrate(ownerUrl: string, tell: (what: string) => void, upTo?: string) {
  const sql = postgres(ownerUrl, { max: 1, onnotice: () => {}, ...primaryOf(ownerUrl) })
  try {
    await sql.begin(async (tx) => {
      await tx`select pg_advisory_xact_lock(${MIGRATION_LOCK})`
      const postgrator = new Postgrator({
        migrationPattern: fileURLToPath(new URL('./migrations/*', import.meta.url)),
        driver: 'pg',
        schemaTable: 'public.schema_version',
        validateChecksums: true,
        execQuery: async (query: string) => ({ rows: await tx.unsafe(query) }),
        execSqlScript: async (script: string) => void (await tx.unsafe(script)),
      } as ConstructorParameters<typeof Postgrator>[0])
      postgrator.on('migration-started', ({ version, name }) => tell(`Migration ${version}, ${name}`))
      await postgrator.migrate(upTo)
    })
  } finally {
    await sql.end()
  }
}
