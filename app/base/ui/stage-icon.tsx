import {
  BookCheck,
  ClipboardCheck,
  Droplet,
  Gauge,
  type LucideIcon,
  PackageMinus,
  PackagePlus,
  ScanSearch,
  Wind,
  Wrench,
} from 'lucide-react'
import type { Stage } from '#core/tape'

const ICONS: Record<Stage, LucideIcon> = {
  prepare: ClipboardCheck,
  recover: PackagePlus,
  repair: Wrench,
  'leak-test': ScanSearch,
  evacuate: Wind,
  oil: Droplet,
  charge: PackageMinus,
  verify: Gauge,
  close: BookCheck,
}

/** Beside the word, never alone. */
export function StageIcon({ stage, size = 16 }: { stage: Stage; size?: number }) {
  const Icon = ICONS[stage]
  return <Icon size={size} aria-hidden className="icon" />
}
