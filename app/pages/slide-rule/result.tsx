import type { ReactNode } from 'react'
import { CylinderPicture } from '~/cylinders/picture'
import type { Step, Table } from '~/slide-rule/outcome'
import { WideTable } from '~/base/ui/wide-table'
import { OUTCOME_WORDS } from '~/words/en'
import type { loadTool } from './load.server'

export type ShownOutcome = NonNullable<Awaited<ReturnType<typeof loadTool>>['outcome']>

/** The answer, big, and what it means. */
export function Hero({ outcome }: { outcome: ShownOutcome }) {
  const { hero, judgement, sketch } = outcome
  return (
    <section className="sheet answer" aria-live="polite">
      <div className="answer-words">
        <div className="quiet">{hero.label}</div>
        <div className="hero">{hero.text}</div>
        {hero.beside && <div className="quiet">{hero.beside}</div>}
        {judgement && (
          <div className={`verdict verdict-${judgement.outcome} mt-2`}>
            <div className="quiet">{OUTCOME_WORDS[judgement.outcome]}</div>
            <h2 className="h3">{judgement.words}</h2>
            <ul>
              {judgement.reasons.map((reason) => (
                <li key={reason}>{reason}</li>
              ))}
            </ul>
          </div>
        )}
      </div>
      {sketch && <Sketch sketch={sketch} />}
    </section>
  )
}

/** The other numbers that came out. */
export function Figures({ figures }: { figures: ShownOutcome['figures'] }) {
  if (figures.length < 2) return null
  return (
    <section className="sheet">
      <dl className="facts">
        {figures.map(({ name, label, text }) => (
          <div key={name}>
            <dt>{label}</dt>
            <dd className="digits-wrap">{text}</dd>
          </div>
        ))}
      </dl>
    </section>
  )
}

function Sketch({ sketch }: { sketch: NonNullable<ShownOutcome['sketch']> }) {
  const { waterCapacityMg, refrigerant, levelNow, level55, limitLevel } = sketch
  const one = (id: string, level: number, words: string) => (
    <figure>
      <CylinderPicture
        cylinder={{
          cylinderId: id,
          waterCapacityMg,
          kind: 'recovery',
          refrigerant,
          level,
          limit: limitLevel,
          tags: [],
        }}
        size={150}
      />
      <figcaption className="quiet">{words}</figcaption>
    </figure>
  )
  const percent = (share: number) => `${Math.round(share * 100)} % liquid`
  return (
    <div className="sketch">
      {levelNow === undefined
        ? one('limit', limitLevel, `at its limit: ${percent(limitLevel)}`)
        : one('now', levelNow, `now: ${percent(levelNow)}`)}
      {level55 !== undefined && one('at-55', level55, `at 55 °C: ${percent(level55)}`)}
    </div>
  )
}

export function Working({ steps }: { steps: Step[] }) {
  return (
    <section className="sheet">
      <h2>Working</h2>
      <ol className="working">
        {steps.map(({ what, put, gives }, i) => (
          <li key={i}>
            <strong>{what}</strong>
            <span>{put}</span>
            <span className="gives">= {gives}</span>
          </li>
        ))}
      </ol>
    </section>
  )
}

export function Tables({ tables }: { tables: Table[] }) {
  return tables.map(({ title, head, rows }) => (
    <section key={title} className="sheet">
      <h2>{title}</h2>
      <WideTable label={title}>
        <thead>
          <tr>
            {head.map((cell, i) => (
              <th key={i} scope="col">
                {cell}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row, r) => (
            <tr key={r}>
              {row.map((cell, i) => (
                <td key={i} className={i === 0 ? '' : 'digits'}>
                  {cell}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </WideTable>
    </section>
  ))
}

/** Caution, how sure, where from, and what the tool does not know. */
export function Notes({
  outcome,
}: {
  outcome: Pick<ShownOutcome, 'caution' | 'uncertainty' | 'source' | 'unknown'>
}) {
  const { caution, uncertainty, source, unknown } = outcome
  return (
    <>
      {caution.length > 0 && (
        <section className="caution-box">
          <List title="Caution">{caution}</List>
        </section>
      )}
      <section className="sheet notes">
        <List title="How sure">{uncertainty}</List>
        <List title="What it does not know">{unknown}</List>
        <List title="Source">{source}</List>
      </section>
    </>
  )
}

function List({ title, children }: { title: string; children: string[] }): ReactNode {
  if (children.length === 0) return null
  return (
    <div>
      <h2 className="h6">{title}</h2>
      <ul>
        {children.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
    </div>
  )
}
