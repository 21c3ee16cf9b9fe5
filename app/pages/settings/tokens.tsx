import { Button, Form as Controls } from 'react-bootstrap'
import { Form, Link, useNavigation } from 'react-router'
import type { ApiToken } from '#db'
import { Field } from '~/base/ui/field'
import { day } from '~/base/ui/time'
import { fieldsOf, type Result } from './result'

interface TokenSettingsProps {
  tokens: ApiToken[]
  timeZone: string
  result: Result | undefined
}

const SCOPE_WORDS = { calc: 'calculations', cylinders: 'sees the cylinders' }

/** With which programs ask Keg. */
export function TokenSettings({ tokens, timeZone, result }: TokenSettingsProps) {
  const busy = useNavigation().state !== 'idle'
  const field = fieldsOf(result, 'make-token')
  return (
    <fieldset className="group">
      <legend>Tokens for programs</legend>
      <p className="quiet">
        A program sends one with each question to the slide rule. What may be asked is described in{' '}
        <Link to="/api/v1/openapi.json" reloadDocument>
          the interface’s document
        </Link>
        .
      </p>
      {result?.token && (
        <p className="verdict verdict-good">
          <code className="token">{result.token}</code>
        </p>
      )}
      <ul className="due-list mb-3">
        {tokens.map((token) => (
          <li key={token.tokenId} className="spread">
            <span>
              <strong>{token.name}</strong>{' '}
              <span className="tag">{token.scopes.map((s) => SCOPE_WORDS[s]).join(', ')}</span>{' '}
              <span className="quiet">
                made {day(token.madeAt, timeZone)} by {token.madeBy}, held by {token.holder},{' '}
                {token.usedOn ? `last used ${token.usedOn}` : 'never used'}
              </span>
            </span>
            {token.revokedAt ? (
              <span className="tag tag-amber">revoked {day(token.revokedAt, timeZone)}</span>
            ) : (
              <Form method="post">
                <input type="hidden" name="intent" value="revoke-token" />
                <input type="hidden" name="tokenId" value={token.tokenId} />
                <Button
                  type="submit"
                  variant="outline-danger"
                  disabled={busy}
                  aria-label={`Revoke ${token.name}`}
                >
                  Revoke
                </Button>
              </Form>
            )}
          </li>
        ))}
      </ul>
      <Form method="post" key={result?.token ?? 'make'}>
        <h3>Make a token</h3>
        <input type="hidden" name="intent" value="make-token" />
        <div className="form-grid">
          <Field {...field('tokenName')} label="What it is for" maxLength={100} autoComplete="off" />
          <Controls.Check id="token-cylinders" name="cylinders" label="It may look at the shop’s cylinders" />
        </div>
        <div className="form-foot">
          <Button type="submit" disabled={busy}>
            Make it
          </Button>
        </div>
      </Form>
    </fieldset>
  )
}
