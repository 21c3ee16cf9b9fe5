import { customers } from './customers.server'
import { cylinders } from './cylinders.server'
import { kit } from './kit.server'
import type { Sheet } from './sheet.server'
import { systems } from './systems.server'

export type SheetName = 'customers' | 'cylinders' | 'systems' | 'kit'

/** In the order in which they are best brought in. */
export const SHEETS: Record<SheetName, Sheet<never, never>> = { customers, cylinders, systems, kit } as never

export const sheetNamed = (text: string | null): SheetName | undefined =>
  (Object.keys(SHEETS) as SheetName[]).find((name) => name === text)
