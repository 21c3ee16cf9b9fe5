import { cylinderLimit, isNearLimit, liquidLevel, mostInMg, testDate } from '#core/cylinders'
import { OutOfRangeError } from '#core/refrigerants'
import { MG_PER_KG, ZERO_CELSIUS_K } from '#core/units'
import type { CylinderRow } from '#db'
import type { CylinderSight } from './sight'

const ROOM_K = 20 + ZERO_CELSIUS_K

/** A cylinder with what is to be seen of it at a glance: level at 20 C, limit, and words for what is amiss. */
export function seen<T extends CylinderRow>(
  cylinder: T,
  marginPct: number,
  today: string,
): T & CylinderSight {
  const level = levelOf(cylinder, marginPct)
  return { ...cylinder, ...level, tags: tagsOf(cylinder, level.share, today) }
}

function levelOf(cylinder: CylinderRow, marginPct: number): Omit<CylinderSight, 'tags'> {
  const { refrigerant } = cylinder
  // The fuller of books and scale: what is drawn must never look emptier than it may be.
  const inItMg = mostInMg(cylinder)
  const found = cylinderLimit(cylinder, null, marginPct)
  if (found.kind === 'unknown' || refrigerant === null) return { level: 0 }
  const { limit } = found
  const known = { share: inItMg / limit.netMg, grossLimitMg: limit.grossMg, governs: limit.governs }
  try {
    const levelAt = (massMg: number) =>
      Math.max(0, Math.min(1, liquidLevel(massMg / MG_PER_KG, limit.volumeM3, refrigerant, ROOM_K)))
    return { ...known, level: levelAt(inItMg), limit: levelAt(limit.netMg) }
  } catch (error) {
    // No liquid at room temperature: drawn without a level.
    if (error instanceof OutOfRangeError) return { ...known, level: 0 }
    throw error
  }
}

function tagsOf(cylinder: CylinderRow, share: number | undefined, today: string): CylinderSight['tags'] {
  const tags: CylinderSight['tags'] = []
  const { state } = testDate(cylinder.testedOn, cylinder.testYears, today, cylinder.kind === 'one-way')
  // A supplier fills virgin and one-way cylinders: their limit is theirs.
  const ours = cylinder.kind === 'recovery' || cylinder.kind === 'station'
  if (ours && share !== undefined && share > 1) tags.push(['over its limit', 'limit'])
  else if (ours && share !== undefined && isNearLimit(share)) tags.push(['near its limit', 'amber'])
  if (state === 'overdue') tags.push(['test run out', 'limit'])
  if (state === 'due-soon') tags.push(['test due', 'amber'])
  if (state === 'unknown') tags.push(['test unknown', 'amber'])
  if (cylinder.condition === 'doubtful') tags.push(['doubtful gas', 'amber'])
  if (cylinder.condition === 'mixed') tags.push(['mixed gas', 'limit'])
  if (cylinder.balanceMg < 0) tags.push(['books below zero', 'limit'])
  if (cylinder.offMg !== 0) tags.push(['scale and books differ', 'amber'])
  if (cylinder.reservedMg > 0) tags.push(['reserved', 'copper'])
  return tags
}
