import type { CylinderRow } from '#db'
import type { CylinderSight } from './sight'

/** Of the cylinders that are drawn, the largest water capacity that still grows. */
const LARGEST_MG = 60_000_000
const SHELL = 'M26 26h32c12 0 18 9 18 18v72c0 6-5 10-11 10H19c-6 0-11-4-11-10V44c0-9 6-18 18-18z'
const BOTTOM = 126
const TALL = 100

interface PictureProps {
  cylinder: Pick<CylinderRow, 'cylinderId' | 'waterCapacityMg' | 'kind' | 'refrigerant'> & CylinderSight
  /** Height of the largest, pixels. */
  size?: number
}

/** A cylinder drawn to scale: its level, its limit line, and what it holds. */
export function CylinderPicture({ cylinder, size = 150 }: PictureProps) {
  const { level, limit } = cylinder
  const grow = Math.cbrt(Math.min(LARGEST_MG, cylinder.waterCapacityMg ?? 10_000_000) / LARGEST_MG)
  const clip = `clip-${cylinder.cylinderId}`
  const y = (share: number) => BOTTOM - TALL * share
  return (
    <svg
      className="cylinder-picture"
      viewBox="0 0 84 132"
      height={Math.round(size * (0.3 + 0.7 * grow))}
      aria-hidden
    >
      <clipPath id={clip}>
        <path d={SHELL} />
      </clipPath>
      <path
        className="fitting"
        d={
          cylinder.kind === 'one-way'
            ? 'M38 12h8v14h-8z M34 8h16v5H34z'
            : 'M28 14h6v14h-6z M50 14h6v14h-6z M22 8h40v5H22z'
        }
      />
      <path className="shell" d={SHELL} />
      <g clipPath={`url(#${clip})`}>
        <rect className="liquid" x="8" width="68" y={y(level)} height={TALL * level} />
        {limit !== undefined && <line className="limit-line" x1="8" x2="76" y1={y(limit)} y2={y(limit)} />}
      </g>
      <path className="shell" d={SHELL} style={{ fill: 'none' }} />
      <rect className="badge-paper" x="12" y="64" width="60" height="22" rx="3" />
      <text x="42" y="79" textAnchor="middle">
        {cylinder.refrigerant?.replace('R-', '') ?? 'empty'}
      </text>
    </svg>
  )
}
