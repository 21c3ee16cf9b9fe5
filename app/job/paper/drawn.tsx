/** Strokes are kept in thousandths of the field's width. */
export const WIDE = 1_000

/** As it was drawn. */
export function Drawn({ strokes }: { strokes: number[][] }) {
  return (
    <svg viewBox={`0 0 ${WIDE} 350`} className="signature-drawn" role="img" aria-label="Signature">
      {strokes.map((stroke, i) => (
        <polyline
          key={i}
          points={Array.from(
            { length: stroke.length >> 1 },
            (_, k) => `${stroke[2 * k]},${stroke[2 * k + 1]}`,
          ).join(' ')}
          fill="none"
          stroke="currentColor"
          strokeWidth={6}
          strokeLinecap="round"
        />
      ))}
    </svg>
  )
}
