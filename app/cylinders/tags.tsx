import type { CylinderSight } from './sight'

export function CylinderTags({ tags }: Pick<CylinderSight, 'tags'>) {
  return tags.map(([text, tone]) => (
    <span key={text} className={`tag tag-${tone}`}>
      {text}
    </span>
  ))
}
