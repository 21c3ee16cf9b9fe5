// Puts a backup back, or only looks whether it could be: restored into a database of its own, brought up to date,
// compared with its own books; then put in the place of the one that was there. Run by ./keg restore.
import { execFile } from 'node:child_process'
import { mkdtemp, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { promisify } from 'node:util'
import { partsOf, withDatabase } from '../db/address'
import { prepareDatabase } from '../db/migrate'
import {
  type Books,
  checkBooks,
  dropDatabase,
  endAllSessions,
  makeDatabase,
  holdDevices,
  putInPlace,
  shutOut,
  shutOutAgain,
} from '../db/restore'

const run = promisify(execFile)
const only = process.argv[2] === '--check'
const [file, pgBin] = process.argv.slice(only ? 3 : 2)
const adminUrl = address('KEG_ADMIN_DATABASE_URL')
const ownerUrl = address('KEG_OWNER_DATABASE_URL')
const appUrl = address('KEG_DATABASE_URL')
const place = partsOf(appUrl).database
const made = `${place}_${only ? 'check' : 'restoring'}_${process.pid}`
const at = (url: string) => withDatabase(url, made)
const STAYS_OUT = { token: 'Token', device: 'Device', person: 'Person' }

try {
  const books = await restoreBeside()
  if (only) {
    report(books)
    await dropDatabase(adminUrl, made)
  } else await takeThePlace(books)
} catch (error) {
  console.error(`[keg] ${causeOf(error)}`)
  await dropDatabase(adminUrl, made).catch((left: unknown) =>
    console.error(`[keg] The database ${made} is left behind: ${causeOf(left)}`),
  )
  process.exit(1)
}

/** Whatever the schema it was made with: it is brought to today's. */
async function restoreBeside(): Promise<Books> {
  await makeDatabase(adminUrl, made, ownerUrl)
  const folder = await mkdtemp(join(tmpdir(), 'keg-restore-'))
  try {
    const pass = join(folder, 'pass')
    const { stdout } = await run('node', ['command/address.mjs', 'KEG_ADMIN_DATABASE_URL', pass])
    const restored = ['--exit-on-error', `--dbname=${withDatabase(stdout.trim(), made)}`, file!]
    await run(join(pgBin!, 'pg_restore'), restored, { env: { ...process.env, PGPASSFILE: pass } })
  } finally {
    await rm(folder, { recursive: true })
  }
  await prepareDatabase({ adminUrl: at(adminUrl), ownerUrl: at(ownerUrl), appUrl: at(appUrl) })
  return checkBooks(at(adminUrl))
}

async function takeThePlace(books: Books) {
  const out = await shutOut(withDatabase(adminUrl, place))
  const again = await shutOutAgain(at(adminUrl), out ?? [])
  const held = await holdDevices(at(adminUrl))
  const ended = await endAllSessions(at(adminUrl))
  const away = `${place}_before_restore`
  await dropDatabase(adminUrl, away)
  await putInPlace(adminUrl, made, place, away)
  report(books)
  console.log(`[keg] What was there before is kept as the database ${away}, until the next restore.`)
  console.log(`[keg] ${ended} sessions were ended: everybody signs in again.`)
  if (out === undefined)
    console.log(
      '[keg] Which tokens, devices and people were shut out since cannot be known: look at Settings, and at Kit, Live instruments.',
    )
  for (const { kind, name } of again)
    console.log(`[keg] ${STAYS_OUT[kind]} ${name} stays out, as since the backup.`)
  if (held > 0)
    console.log(
      `[keg] ${held} ${held === 1 ? 'device is' : 'devices are'} kept out until a manager has looked: Kit, Live instruments.`,
    )
  console.log('[keg] Passwords are as they were then: look at Settings, People.')
}

function report({ movements, entries, wrong }: Books) {
  console.log(`[keg] ${entries} entries and ${movements} movements, up to date with this version of Keg.`)
  if (wrong.length === 0) {
    console.log('[keg] Every balance is the sum of its movements.')
    return
  }
  for (const { place: where, balanceMg, sumMg } of wrong)
    console.error(`[keg] ${where}: the balance says ${balanceMg} mg, its movements ${sumMg} mg.`)
  if (only) throw new Error(`The books of this backup do not agree in ${wrong.length} places.`)
}

function causeOf(error: unknown): string {
  const { stderr, message } = error as { stderr?: string; message?: string }
  return (stderr?.trim() || message || String(error)).replace(/\/\/[^@\s]*@/g, '//')
}

function address(name: string): string {
  const url = process.env[name]
  if (url) return url
  console.error(`[keg] ${name} is not set: give the address of the database as ${name}`)
  process.exit(1)
}
