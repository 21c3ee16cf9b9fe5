import type { Outbox } from '../outbox/outbox'

let current: Outbox | undefined

/** The outbox of this page, for what happens before or beside its components. */
export const currentOutbox = () => current

export function setCurrentOutbox(outbox: Outbox) {
  current = outbox
}
