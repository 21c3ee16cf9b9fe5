// Two versions at once: who is told, and which worker takes over without a word.
import { afterEach, beforeEach, expect, it, vi } from 'vitest'

class Registration extends EventTarget {
  waiting: { postMessage: ReturnType<typeof vi.fn> } | undefined
  installing = new EventTarget()
  update = vi.fn()
}

let registration: Registration
let program: typeof import('./program')
const told = vi.fn()
const reload = vi.fn()
const OWN = 'b2'

beforeEach(async () => {
  vi.useFakeTimers()
  vi.stubEnv('PROD', true)
  registration = new Registration()
  const serviceWorker = Object.assign(new EventTarget(), {
    controller: {},
    register: async () => registration,
    getRegistration: async () => registration,
  })
  vi.stubGlobal('navigator', { serviceWorker })
  vi.stubGlobal('document', { querySelector: () => ({ content: OWN }) })
  vi.stubGlobal('location', { reload })
  vi.resetModules()
  program = await import('./program')
  told.mockClear()
  reload.mockClear()
  program.subscribeToProgram(told)
  program.keepProgram()
})
afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllEnvs()
  vi.unstubAllGlobals()
})

/** The worker is looked for once the page is there. */
const registered = () => vi.advanceTimersByTimeAsync(2_000)
/** Another version of it has been fetched. */
function fetched() {
  registration.waiting = { postMessage: vi.fn() }
  registration.dispatchEvent(new Event('updatefound'))
  registration.installing.dispatchEvent(new Event('statechange'))
  return registration.waiting
}

it('an older page is told when the server has another program, and looks for its worker', async () => {
  await registered()
  program.serverHas('b3')
  await vi.advanceTimersByTimeAsync(0)
  expect(program.newerProgram()).toBe(true)
  expect(told).toHaveBeenCalledOnce()
  expect(registration.update).toHaveBeenCalled()
})

it('an older page is told when a worker waits, and loads anew once that has taken over', async () => {
  await registered()
  const waiting = fetched()
  expect(program.newerProgram()).toBe(true)
  expect(waiting.postMessage).not.toHaveBeenCalled()
  program.takeNewer()
  expect(waiting.postMessage).toHaveBeenCalledWith('take-over')
  expect(reload).not.toHaveBeenCalled()
  navigator.serviceWorker.dispatchEvent(new Event('controllerchange'))
  expect(reload).toHaveBeenCalledOnce()
})

it('a page that is of the server’s program already is told nothing: its worker follows by itself', async () => {
  program.serverHas(OWN)
  await registered()
  const waiting = fetched()
  expect(waiting.postMessage).toHaveBeenCalledWith('take-over')
  expect(program.newerProgram()).toBe(false)
  expect(told).not.toHaveBeenCalled()
})

it('takes its word back where the server says later that there is nothing newer', async () => {
  await registered()
  const waiting = fetched()
  expect(program.newerProgram()).toBe(true)
  program.serverHas(OWN)
  expect(program.newerProgram()).toBe(false)
  expect(waiting.postMessage).toHaveBeenCalledWith('take-over')
  program.serverHas('b3')
  expect(program.newerProgram()).toBe(true)
})

it('says nothing of the first worker: nothing is older than it', async () => {
  Object.assign(navigator.serviceWorker, { controller: null })
  await registered()
  fetched()
  expect(program.newerProgram()).toBe(false)
})
