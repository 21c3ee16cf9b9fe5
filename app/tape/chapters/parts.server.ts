import Joi from 'joi'
import { ID } from '~/base/form/ids.server'

/** Schemas of the kinds of one chapter: a kind without one does not compile. */
export type Schemas<Bodies> = { [K in keyof Bodies]: Joi.SchemaMap }

/** As every device of ours writes them: another spelling of the same id would be another id. */
export const anId = Joi.string().pattern(ID)
export const id = anId.required()
export const massMg = Joi.number().integer().min(-1e12).max(1e12)
export const pressurePa = Joi.number().min(0).max(2e7).required()
export const words = (most: number) => Joi.string().allow('').max(most)
export const oneOf = (...values: string[]) => Joi.string().valid(...values)
export const tempK = Joi.number().min(170).max(580).required()
