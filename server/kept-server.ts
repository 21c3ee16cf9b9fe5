// One server, kept: when it ends another is started, and one that is really stuck is ended.
import { type ChildProcess, fork } from 'node:child_process'
import type { Socket } from 'node:net'
import {
  isStuck,
  longer,
  type Look,
  lookAt,
  NO_SILENCE,
  PATIENCE,
  type Patience,
  type Silence,
} from './patience'

const RESTART_MS = { first: 200, most: 10_000 }
const LOOK_MS = 1_000
/** A start that takes longer says how far it is, so often. */
const SAY_START_MS = 10_000
const LEAVE_MS = 10_000

export interface KeptServer {
  /** Hands a connection on. @returns false while there is nobody to take it */
  take: (socket: Socket) => boolean
  /** Ends it, and starts none again. */
  leave: () => Promise<void>
}

/** A file for Node, with its own arguments and Node's. */
export interface Program {
  file: string
  args?: string[]
  nodeArgs?: string[]
}

/** @param tell what happens, for whoever reads the console */
export function keepServer(
  { file, args = [], nodeArgs = [] }: Program,
  tell: (what: string) => void,
  patience: Patience = PATIENCE,
): KeptServer {
  let child: ChildProcess | undefined
  let ready = false
  let everReady = false
  let leaving = false
  let restartMs = RESTART_MS.first
  let tries = 0
  let silence: Silence = NO_SILENCE
  let before: Look | undefined
  let lookedAt = 0
  let startedAt = 0
  let saidAt = 0

  function start() {
    startedAt = saidAt = lookedAt = Date.now()
    silence = NO_SILENCE
    before = undefined
    const started = fork(file, args, {
      execArgv: nodeArgs,
      env: { ...process.env, KEG_SUPERVISED: everReady ? 'again' : 'first' },
    })
    child = started
    started.on('message', (message) => {
      silence = NO_SILENCE
      if (message !== 'ready') return
      if (everReady) tell('The server is back.')
      ready = everReady = true
      // One that came up and ended is started again at once; one that never comes up is given more and more time.
      restartMs = RESTART_MS.first
      tries = 0
    })
    started.on('error', (error) => tell(`The server: ${error.message}`))
    started.once('exit', (code, signal) => {
      if (!ready) tries++
      ready = false
      child = undefined
      if (leaving) return
      tell(`The server has ended (${signal ?? `code ${code}`}): starting it again in ${restartMs / 1000} s.`)
      setTimeout(() => {
        if (!leaving) start()
      }, restartMs)
      restartMs = Math.min(RESTART_MS.most, restartMs * 2)
    })
  }

  function look() {
    if (!child?.pid) return
    const now = Date.now()
    const seen = lookAt(child.pid, now)
    silence = longer(silence, before, seen, now - lookedAt)
    before = seen
    lookedAt = now
    if (child.connected)
      child.send('ping', (error) => {
        // It is ending: its exit says the rest.
        if (error) silence = NO_SILENCE
      })
    if (!ready && now - saidAt >= SAY_START_MS) {
      saidAt = now
      const had = seen ? `, with ${(seen.cpuMs / 1000).toFixed(1)} s of a processor` : ''
      tell(`The server is still loading: ${Math.round((now - startedAt) / 1000)} s so far${had}.`)
    }
    if (!isStuck(silence, patience, ready ? undefined : tries)) return
    tell(
      silence.idleMs >= patience.silentMs
        ? `The server has not answered for ${(silence.idleMs / 1000).toFixed(1)} s, and was not at work: ending it.`
        : `The server has worked for ${(silence.busyMs / 1000).toFixed(1)} s without an answer: ending it.`,
    )
    silence = NO_SILENCE
    child.kill('SIGKILL')
  }

  start()
  const looks = setInterval(look, Math.min(LOOK_MS, patience.silentMs / 4))
  return {
    take(socket) {
      if (!ready || !child?.connected) return false
      child.send('connection', socket, (error) => error && socket.destroy())
      return true
    },
    leave() {
      leaving = true
      clearInterval(looks)
      const last = child
      if (!last) return Promise.resolve()
      return new Promise((resolve) => {
        last.once('exit', () => resolve())
        last.kill('SIGTERM')
        setTimeout(() => last.kill('SIGKILL'), LEAVE_MS).unref()
      })
    },
  }
}
