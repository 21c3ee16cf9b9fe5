import type { WatchBodies } from '#core/tape'
import { duration } from '~/base/ui/time'
import { ALARM_WORDS, WATCH_WORDS, wordOf } from '../en'
import type { Words } from './say'

export const watches: Words<WatchBodies> = {
  'watch-started': ({ what, forS }) => `${WATCH_WORDS[what]}, for ${duration(forS)}`,
  'watch-ended': () => 'Watch ended',
  'alarm-acknowledged': ({ code }) => `Seen: ${wordOf(ALARM_WORDS, code)}`,
}
