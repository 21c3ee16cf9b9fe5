import type { KitKind } from '#core/kit'
import { cylinderOf, type KitData, type ShopTx } from '#db'
import { checkForm, type Refused, refuse, type Typed } from '~/base/form/read.server'
import { type ReadersUnits, typed as asTyped } from '~/base/ui/measure'
import { factsOf, factsTyped } from './fields'
import { factsFrom, kitSchema } from './schema'

/** Reads the form of a piece of kit. */
export function readKit(
  typed: Typed,
  kind: KitKind,
  reading: ReadersUnits,
): { data: KitData; refused?: undefined } | { data?: undefined; refused: Refused } {
  const form = checkForm(typed, kitSchema(kind, reading))
  if (form.refused) return { refused: form.refused }
  const { label, keepsAt = '', state } = form.value
  const { facts, errors } = factsFrom(kind, form.value)
  if (Object.keys(errors).length > 0) return { refused: refuse(typed, errors) }
  return { data: { kind, label, keepsAt, state, facts } }
}

/** A piece as its form shows it. */
export function kitFields({ kind, label, keepsAt, state, facts }: KitData, reading: ReadersUnits): Typed {
  return { label, keepsAt, state, ...factsTyped(kind, facts, reading) }
}

/** What was not touched keeps its exact value: a field shows a rounded one. */
export function untouched(before: KitData, after: KitData, reading: ReadersUnits): KitData {
  const facts = { ...after.facts } as Record<string, unknown>
  for (const [name, field] of factsOf(after.kind)) {
    const was = before.facts[name]
    const is = after.facts[name]
    if (field.type !== 'measure' || was === undefined || is === undefined) continue
    if (asTyped(field.kind, was as number, reading) === asTyped(field.kind, is as number, reading))
      facts[name] = was
  }
  return { ...after, facts: facts as KitData['facts'] }
}

/** What the shop does not have. */
export async function kitProblems(tx: ShopTx, { facts }: KitData): Promise<Record<string, string>> {
  if (!facts.tankId) return {}
  const tank = await cylinderOf(tx, facts.tankId)
  return tank?.kind === 'station' ? {} : { tankId: 'Choose its tank from the list again.' }
}
