import { vi } from 'vitest'

/** What the program's stores and outbox need of a browser, where there is none; the database is fake-indexeddb's. */
export function aBrowser(fetch: (path: string, init?: RequestInit) => Promise<Partial<Response>>): void {
  vi.stubGlobal('window', { addEventListener() {}, removeEventListener() {} })
  vi.stubGlobal('fetch', fetch)
  vi.stubGlobal('localStorage', storage())
}

/** What a browser keeps at once, without waiting. */
function storage(): Storage {
  const methods = {
    getItem: (key: string) => kept[key] ?? null,
    setItem,
    removeItem: (key: string) => delete kept[key],
  }
  const kept: Record<string, string> = Object.create(methods) as Record<string, string>
  function setItem(key: string, value: string) {
    kept[key] = value
  }
  return kept as unknown as Storage
}
