import type { Channel } from '#core/samples'

/** A channel that says something on this page. */
export interface LiveSource {
  deviceId: string
  channel: Channel
  kitId: string
  /** Label of the piece of kit. */
  kit: string
  /** Of the page's own past; else it is only offered. */
  own: boolean
  /** It is used now. */
  inUse: boolean
}
