import type { StationReport } from '#core/programme'

/** The server, as a device sees it: whatever happens on the way is one of these. */
export type Answer =
  | { kind: 'taken'; refused: { index: number; sentence: string }[] }
  | { kind: 'later'; why: string; afterMs?: number }
  | { kind: 'shut'; why: string }

export interface DeviceAtServer {
  send(samples: readonly object[]): Promise<Answer>
  /** Something to do, after the number it has; waits for it. @returns undefined without an answer */
  commands(
    after: number,
    signal: AbortSignal,
  ): Promise<{ nr: number; command: Record<string, unknown> }[] | undefined>
  state(state: object): Promise<boolean>
  /** What a station says of its programme. */
  report(said: { programmeId: string; reports: StationReport[] }): Promise<Answer>
}

const ANSWER_MS = 15_000
const WAIT_S = 20

export function deviceAt(server: string, deviceId: string, token: string): DeviceAtServer {
  const headers = { authorization: `Bearer ${token}`, 'content-type': 'application/json' }
  return {
    async send(samples) {
      try {
        const response = await fetch(`${server}/api/v1/samples`, {
          method: 'POST',
          headers,
          body: JSON.stringify({ samples }),
          signal: AbortSignal.timeout(ANSWER_MS),
        })
        return await read(response)
      } catch (error) {
        return { kind: 'later', why: String((error as Error).cause ?? error) }
      }
    },
    async commands(after, signal) {
      try {
        const response = await fetch(
          `${server}/api/v1/devices/${deviceId}/commands?after=${after}&wait=${WAIT_S}`,
          {
            headers,
            signal: AbortSignal.any([signal, AbortSignal.timeout((WAIT_S + 10) * 1_000)]),
          },
        )
        if (!response.ok) return undefined
        return ((await response.json()) as { commands: { nr: number; command: Record<string, unknown> }[] })
          .commands
      } catch {
        return undefined
      }
    },
    async report(said) {
      try {
        const response = await fetch(`${server}/api/v1/devices/${deviceId}/programme`, {
          method: 'POST',
          headers,
          body: JSON.stringify({ ...said, sentAt: Date.now() }),
          signal: AbortSignal.timeout(ANSWER_MS),
        })
        // Nobody waits for it: a programme that is not there, or a report that is none.
        if (response.status === 404 || response.status === 422) {
          const { detail = '' } = (await response.json()) as { detail?: string }
          return { kind: 'taken', refused: [{ index: 0, sentence: detail }] }
        }
        return response.status === 204 ? { kind: 'taken', refused: [] } : await read(response)
      } catch (error) {
        return { kind: 'later', why: String((error as Error).cause ?? error) }
      }
    },
    async state(state) {
      try {
        const response = await fetch(`${server}/api/v1/devices/${deviceId}/state`, {
          method: 'PUT',
          headers,
          body: JSON.stringify(state),
          signal: AbortSignal.timeout(ANSWER_MS),
        })
        return response.ok
      } catch {
        return false
      }
    },
  }
}

async function read(response: Response): Promise<Answer> {
  if (response.status === 401) return { kind: 'shut', why: 'the token is not in force' }
  if (response.status === 200) return { kind: 'taken', refused: [] }
  // Named one by one: sending those again would change nothing.
  if (response.status === 207 || response.status === 422) {
    const { errors = [] } = (await response.json()) as { errors?: { index: number; sentence: string }[] }
    return { kind: 'taken', refused: errors }
  }
  const after = Number(response.headers.get('retry-after'))
  return { kind: 'later', why: `${response.status}`, ...(after > 0 ? { afterMs: after * 1_000 } : {}) }
}
