import { Button } from 'react-bootstrap'
import { Form, useNavigation } from 'react-router'
import type { ApiToken, Person } from '#db'
import { Field, SelectField } from '~/base/ui/field'
import { ROLE_WORDS } from '~/words/en'
import { fieldsOf, type Result } from './result'

interface PeopleSettingsProps {
  people: Person[]
  me: string
  tokens: ApiToken[]
  result: Result | undefined
}

/** Who works here. Nobody is deleted: what they noted stays theirs. */
export function PeopleSettings({ people, me, tokens, result }: PeopleSettingsProps) {
  return (
    <fieldset className="group">
      <legend>People</legend>
      <ul className="due-list mb-3">
        {people.map((person) => (
          <li key={person.userId}>
            <details open={result?.errors !== undefined && result.typed?.userId === person.userId}>
              <summary style={{ minHeight: '2.75rem', alignContent: 'center' }}>
                <strong>{person.name}</strong> <span className="quiet">{person.signIn}</span>{' '}
                <span className="tag">{ROLE_WORDS[person.role]}</span>{' '}
                {person.disabled && <span className="tag tag-amber">disabled</span>}
                {person.userId === me && <span className="quiet"> (you)</span>}
              </summary>
              <ChangePerson
                person={person}
                tokens={tokens.filter((t) => t.heldBy === person.userId && !t.revokedAt).length}
                heirs={people.filter((p) => p.role === 'manager' && !p.disabled && p !== person)}
                result={result}
              />
            </details>
          </li>
        ))}
      </ul>
      <AddPerson result={result} />
    </fieldset>
  )
}

const ROLES = Object.entries(ROLE_WORDS)

interface ChangePersonProps {
  person: Person
  /** How many tokens they hold, and who else could. */
  tokens: number
  heirs: Person[]
  result: Result | undefined
}

function ChangePerson({ person, tokens, heirs, result }: ChangePersonProps) {
  const busy = useNavigation().state !== 'idle'
  const own = result?.typed?.userId === person.userId ? result : undefined
  const change = fieldsOf(own, 'change-person', {
    role: person.role,
    access: person.disabled ? 'disabled' : 'open',
    version: String(person.version),
  })
  const reset = fieldsOf(own, 'reset-person')
  return (
    <div className="form-grid mb-3">
      <Form method="post" className="stack">
        <input type="hidden" name="intent" value="change-person" />
        <input type="hidden" name="userId" value={person.userId} />
        <input type="hidden" name="version" value={change('version').value} />
        <SelectField {...change('role')} label="Role" options={ROLES} />
        <SelectField
          {...change('access')}
          label="May sign in"
          options={[
            ['open', 'yes'],
            ['disabled', 'no, disabled'],
          ]}
        />
        {tokens > 0 && (
          <SelectField
            {...change('tokensTo')}
            label={`Holds ${tokens} ${tokens === 1 ? 'token' : 'tokens'}; when no manager any more`}
            options={[
              ['', 'they end'],
              ...heirs.map((h): [string, string] => [h.userId, `pass to ${h.name}`]),
            ]}
          />
        )}
        <div>
          <Button type="submit" variant="outline-primary" disabled={busy}>
            Save
          </Button>
        </div>
      </Form>
      <Form method="post" className="stack">
        <input type="hidden" name="intent" value="reset-person" />
        <input type="hidden" name="userId" value={person.userId} />
        <Field
          {...reset('newPassword')}
          label={`New password for ${person.name}`}
          type="password"
          autoComplete="new-password"
        />
        <div>
          <Button type="submit" variant="outline-primary" disabled={busy}>
            Reset the password
          </Button>
        </div>
      </Form>
    </div>
  )
}

function AddPerson({ result }: { result: Result | undefined }) {
  const busy = useNavigation().state !== 'idle'
  const field = fieldsOf(result, 'add-person', { role: 'technician' })
  return (
    <Form method="post" key={result?.done ?? 'add'}>
      <h3>Add somebody</h3>
      <input type="hidden" name="intent" value="add-person" />
      <div className="form-grid">
        <Field {...field('name')} label="Name" maxLength={200} />
        <Field {...field('signIn')} label="Sign-in name" autoComplete="off" maxLength={200} />
        <SelectField {...field('role')} label="Role" options={ROLES} />
        <Field {...field('newPassword')} label="First password" type="password" autoComplete="new-password" />
      </div>
      <div className="form-foot">
        <Button type="submit" disabled={busy}>
          Add
        </Button>
      </div>
    </Form>
  )
}
