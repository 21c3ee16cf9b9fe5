import type { ReactNode } from 'react'

/** One named value in a list of facts. */
export function Fact({ name, children }: { name: string; children: ReactNode }) {
  return (
    <div>
      <dt>{name}</dt>
      <dd>{children}</dd>
    </div>
  )
}
