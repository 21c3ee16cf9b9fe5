import type { RouterContextProvider } from 'react-router'
import type { Shop } from '#db'
import type { Typed } from '~/base/form/read.server'

/** One of the forms of this page, as it was sent. */
export interface Sent {
  typed: Typed
  request: Request
  context: Readonly<RouterContextProvider>
}

/** The shop's data as the form shows them. */
export const shopFields = (shop: Omit<Shop, 'shopId' | 'version'>): Typed => ({
  name: shop.name,
  heading: shop.heading,
  timeZone: shop.timeZone,
  fillMarginPct: String(shop.fillMarginPct),
  sampleDays: String(shop.sampleDays),
})

/** What became of one of the forms on this page. */
export interface Result {
  intent?: string
  done?: string
  errors?: Record<string, string>
  typed?: Typed
  /** A token just made, shown once. */
  token?: string
}

/** Value and error of a field, when it was this form that was sent. */
export function fieldsOf(result: Result | undefined, intent: string, start: Typed = {}) {
  const own = result?.intent === intent && result.errors ? result : undefined
  return (name: string) => ({ name, value: own?.typed?.[name] ?? start[name], error: own?.errors?.[name] })
}
