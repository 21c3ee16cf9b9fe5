import {
  Binoculars,
  Cable,
  Cylinder,
  Droplets,
  Flashlight,
  Gauge,
  type LucideIcon,
  Recycle,
  Scale,
  ScanSearch,
  Thermometer,
  Timer,
  Server,
  Weight,
  Wind,
  Wrench,
} from 'lucide-react'
import type { KitKind } from '#core/kit'

const ICONS: Record<KitKind, LucideIcon> = {
  scale: Scale,
  gauge: Gauge,
  thermometer: Thermometer,
  'vacuum-gauge': Timer,
  identifier: ScanSearch,
  machine: Recycle,
  pump: Wind,
  hoses: Cable,
  'core-tool': Wrench,
  detector: Binoculars,
  'uv-lamp': Flashlight,
  nitrogen: Cylinder,
  weights: Weight,
  bottle: Droplets,
  station: Server,
}

/** Beside the word, never alone. */
export function KitIcon({ kind, size = 20 }: { kind: KitKind; size?: number }) {
  const Icon = ICONS[kind]
  return <Icon size={size} aria-hidden className="icon" />
}
