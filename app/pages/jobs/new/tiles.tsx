import { CylinderPicture } from '~/cylinders/picture'
import { CylinderTags } from '~/cylinders/tags'
import { NotSent } from '~/base/ui/not-sent'
import { useShow } from '~/base/ui/reader'
import { REASON_WORDS } from '~/words/en'
import type { Tile } from '~/cylinders/tile'

interface TilesProps {
  tiles: Tile[]
  picked: string | undefined
  pick: (tile: Tile) => void
}

/** The cylinders at hand, large enough for a glove: one tap says which of them stands on the scale. */
export function Tiles({ tiles, picked, pick }: TilesProps) {
  const show = useShow()
  return (
    <div className="tiles">
      {tiles.map((tile) => {
        const { cylinderId, label, refrigerant, roomMg, expectedMg, refusals } = tile
        const refused = refusals.length > 0
        return (
          <label key={cylinderId} className={refused ? 'tile refused' : 'tile'}>
            <input
              type="radio"
              name="cylinderId"
              value={cylinderId}
              checked={picked === cylinderId}
              disabled={refused}
              onChange={() => pick(tile)}
            />
            <CylinderPicture cylinder={tile} size={92} />
            <span className="about">
              <strong className="label">{label}</strong>
              <span>
                {refrigerant ?? 'no gas yet'}
                {roomMg !== undefined && (
                  <>
                    , room <strong className="digits">{show('weight', Math.max(0, roomMg))}</strong>
                  </>
                )}
              </span>
              {refused ? (
                <span className="quiet">{REASON_WORDS[refusals[0]!]}</span>
              ) : (
                <span className="quiet">
                  scale shows <span className="digits">{show('weight', expectedMg)}</span>
                </span>
              )}
              <span className="row-of">
                <CylinderTags tags={tile.tags} />
                {tile.ahead && <NotSent />}
              </span>
            </span>
          </label>
        )
      })}
    </div>
  )
}
