import Joi from 'joi'
import type { WatchBodies } from '#core/tape'
import { id, oneOf, type Schemas, words } from './parts.server'

export const watches: Schemas<WatchBodies> = {
  'watch-started': {
    watchId: id,
    what: oneOf('pull', 'nitrogen').required(),
    forS: Joi.number().integer().min(30).max(172_800).required(),
  },
  'watch-ended': { watchId: id },
  'alarm-acknowledged': { code: words(40).required(), cause: words(200).required() },
}
