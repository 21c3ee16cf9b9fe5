// Three PostgreSQL servers under Patroni with etcd, each a host of its own in a network namespace, so that its network can
// be cut. Needs root, and Debian's patroni, etcd-server and iproute2.
import { type ChildProcess, execFile, spawn } from 'node:child_process'
import { randomBytes } from 'node:crypto'
import { chmod, mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { setTimeout as pause } from 'node:timers/promises'
import { promisify } from 'node:util'
import { pgBin } from './a-cluster'

const run = promisify(execFile)
const ip = (...args: string[]) => run('ip', args)
const PASSWORD = randomBytes(12).toString('hex')
const ROLES = { admin: 'keg_admin', owner: 'keg_owner', app: 'keg_app' }
const BRIDGE = 'kegbr0'
const HERE = '10.77.0.1'
const NODES = ['n1', 'n2', 'n3'] as const
export type Node = (typeof NODES)[number]
const addressOf = (node: Node) => `10.77.0.1${node[1]}`

export interface APatroni {
  url: (role: keyof typeof ROLES, database?: string) => string
  /** The one that takes writes; undefined while nobody knows. */
  leader: () => Promise<Node | undefined>
  replicas: () => Promise<Node[]>
  addressOf: (node: Node) => string
  /** kill -9 of everything on it. */
  kill: (node: Node) => Promise<void>
  start: (node: Node) => Promise<void>
  cut: (node: Node) => Promise<void>
  mend: (node: Node) => Promise<void>
  remove: () => Promise<void>
}

export async function aPatroni(): Promise<APatroni> {
  const folder = await mkdtemp(join(tmpdir(), 'keg-patroni-'))
  await chmod(folder, 0o755)
  await takeAway()
  await ip('link', 'add', BRIDGE, 'type', 'bridge')
  await ip('addr', 'add', `${HERE}/24`, 'dev', BRIDGE)
  await ip('link', 'set', BRIDGE, 'up')
  for (const node of NODES) {
    await ip('netns', 'add', `keg-${node}`)
    await ip('link', 'add', `keg-${node}`, 'type', 'veth', 'peer', 'name', 'eth0', 'netns', `keg-${node}`)
    await ip('link', 'set', `keg-${node}`, 'master', BRIDGE, 'up')
    for (const words of [`addr add ${addressOf(node)}/24 dev eth0`, 'link set eth0 up', 'link set lo up'])
      await ip('-n', `keg-${node}`, ...words.split(' '))
  }
  await mkdir(join(folder, 'etcd'))
  await run('chown', ['-R', 'postgres', folder])
  const etcd = start([
    'runuser',
    '-u',
    'postgres',
    '--',
    'etcd',
    '--data-dir',
    join(folder, 'etcd'),
    '--listen-client-urls',
    `http://${HERE}:2379`,
    '--advertise-client-urls',
    `http://${HERE}:2379`,
    '--listen-peer-urls',
    `http://${HERE}:2380`,
  ])
  const running = new Map<Node, ChildProcess>()
  const startNode = async (node: Node) => {
    const file = join(folder, `${node}.yml`)
    await writeFile(file, settings(node, folder))
    await chmod(file, 0o644)
    running.set(
      node,
      start(['ip', 'netns', 'exec', `keg-${node}`, 'runuser', '-u', 'postgres', '--', 'patroni', file]),
    )
  }
  for (const node of NODES) await startNode(node)

  const roleOf = async (node: Node): Promise<string | undefined> =>
    fetch(`http://${addressOf(node)}:8008/patroni`, { signal: AbortSignal.timeout(3_000) })
      .then(async (answer) => {
        const { role, state } = (await answer.json()) as { role: string; state: string }
        return state === 'running' ? role : undefined
      })
      .catch(() => undefined)
  const having = async (wanted: RegExp) => {
    const roles = await Promise.all(NODES.map(async (node) => [node, await roleOf(node)] as const))
    return roles.flatMap(([node, role]) => (role && wanted.test(role) ? [node] : []))
  }
  const patroni: APatroni = {
    addressOf,
    url: (role, database = 'keg') =>
      `postgres://${ROLES[role]}:${PASSWORD}@${NODES.map((node) => `${addressOf(node)}:5432`).join()}/${database}`,
    leader: async () => (await having(/master|primary|leader/))[0],
    replicas: () => having(/replica|standby/),
    async kill(node) {
      const { stdout } = await run('ip', ['netns', 'pids', `keg-${node}`])
      for (const pid of stdout.trim().split(/\s+/).filter(Boolean))
        await run('kill', ['-9', pid]).catch(() => undefined)
      running.delete(node)
    },
    start: startNode,
    cut: async (node) => void (await ip('link', 'set', `keg-${node}`, 'down')),
    mend: async (node) => void (await ip('link', 'set', `keg-${node}`, 'up')),
    async remove() {
      for (const node of NODES) await patroni.kill(node)
      etcd.kill('SIGKILL')
      await takeAway()
      await rm(folder, { recursive: true, force: true })
    },
  }
  for (
    let tries = 0;
    (await patroni.leader()) === undefined || (await patroni.replicas()).length < 2;
    tries++
  ) {
    if (tries > 240) {
      await patroni.remove()
      throw new Error('Patroni did not come up: KEG_PATRONI_LOG=1 shows what it says')
    }
    await pause(500)
  }
  return patroni
}

/** What an earlier run left behind. */
async function takeAway() {
  for (const node of NODES) {
    await ip('link', 'del', `keg-${node}`).catch(() => undefined)
    await ip('netns', 'del', `keg-${node}`).catch(() => undefined)
  }
  await ip('link', 'del', BRIDGE).catch(() => undefined)
}

function start([command, ...args]: string[]): ChildProcess {
  return spawn(command!, args, { stdio: process.env.KEG_PATRONI_LOG ? 'inherit' : 'ignore', cwd: '/' })
}

const settings = (node: Node, folder: string) => `
scope: keg
name: ${node}
restapi: {listen: '${addressOf(node)}:8008', connect_address: '${addressOf(node)}:8008'}
etcd3: {hosts: '${HERE}:2379'}
bootstrap:
  dcs:
    ttl: 20
    loop_wait: 4
    retry_timeout: 6
    synchronous_mode: true
    postgresql:
      use_pg_rewind: true
      parameters: {max_connections: 120, jit: 'off'}
  initdb: [{encoding: UTF8}, {locale: C.UTF-8}]
postgresql:
  listen: '${addressOf(node)}:5432'
  connect_address: '${addressOf(node)}:5432'
  data_dir: '${join(folder, node)}'
  bin_dir: '${pgBin()}'
  pgpass: '${join(folder, `${node}.pass`)}'
  parameters: {unix_socket_directories: ''}
  pg_hba: ['local all all scram-sha-256', 'host all all 0.0.0.0/0 scram-sha-256', 'host replication all 0.0.0.0/0 scram-sha-256']
  authentication:
    superuser: {username: keg_admin, password: '${PASSWORD}'}
    replication: {username: keg_replica, password: '${PASSWORD}'}
    rewind: {username: keg_rewind, password: '${PASSWORD}'}
`
