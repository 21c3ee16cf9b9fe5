import { type DBSchema, type IDBPDatabase, openDB, type OpenDBCallbacks } from 'idb'

/** A store of this browser, opened once, and again after the browser has closed it. */
export interface Database<S extends DBSchema> {
  open: () => Promise<IDBPDatabase<S>>
  /** Calls back when the browser has thrown away what was in it, or may have. @returns a function that ends it */
  onEmptied: (tell: () => void) => () => void
}

export function database<S extends DBSchema>(
  name: string,
  version: number,
  upgrade: NonNullable<OpenDBCallbacks<S>['upgrade']>,
): Database<S> {
  let opened: Promise<IDBPDatabase<S>> | undefined
  const listeners = new Set<() => void>()
  const emptied = () => {
    for (const tell of listeners) tell()
  }
  const open = () => {
    if (opened) return opened
    const opening = openDB<S>(name, version, {
      upgrade,
      // A newer page wants to change it; or it is thrown away, and there is no next version.
      blocking: (_, next) => {
        opened = undefined
        void opening.then((db) => db.close()).then(() => next === null && emptied())
      },
      terminated: () => {
        opened = undefined
        emptied()
      },
    })
    opening.catch(() => (opened = undefined))
    return (opened = opening)
  }
  return {
    open,
    onEmptied: (tell) => {
      listeners.add(tell)
      return () => listeners.delete(tell)
    },
  }
}
