import type { SystemRow } from '#db'

/** So many systems are offered at once; more are found by name. */
export const SYSTEMS_SHOWN = 60

export interface SystemChoice {
  systemId: string
  name: string
  refrigerant: string | null
}

export function choiceOf(
  row: Pick<SystemRow, 'systemId' | 'name' | 'customer' | 'site' | 'refrigerant'>,
): SystemChoice {
  const { systemId, name, customer, site, refrigerant } = row
  return { systemId, name: `${name} · ${customer}, ${site}`, refrigerant }
}
