import { Button } from 'react-bootstrap'
import { Form, useNavigation } from 'react-router'
import type { Preferences } from '~/base/session/preferences'
import { Field, SelectField } from '~/base/ui/field'
import { fieldsOf, type Result } from './result'

/** What only concerns oneself. */
export function OwnSettings({
  preferences,
  places,
  version,
  result,
}: {
  preferences: Preferences
  /** Where kit is kept. */
  places: string[]
  version: number
  result: Result | undefined
}) {
  const busy = useNavigation().state !== 'idle'
  const units = fieldsOf(result, 'units', {
    ...preferences.units,
    theme: preferences.theme,
    van: preferences.van,
    notify: preferences.notify ? 'outside' : 'page',
    version: String(version),
  })
  const password = fieldsOf(result, 'password')
  return (
    <>
      <Form method="post" key={JSON.stringify(preferences)}>
        <fieldset className="group">
          <legend>Your units and look</legend>
          <input type="hidden" name="intent" value="units" />
          <input type="hidden" name="version" value={units('version').value} />
          <div className="form-grid">
            <SelectField
              {...units('weight')}
              label="Weight"
              options={[
                ['kg', 'kilograms and grams'],
                ['lb-oz', 'pounds and ounces'],
              ]}
            />
            <SelectField
              {...units('pressure')}
              label="Pressure"
              options={[
                ['bar', 'bar'],
                ['psi', 'psi and inHg'],
              ]}
            />
            <SelectField
              {...units('vacuum')}
              label="Vacuum"
              options={[
                ['micron', 'micron'],
                ['Pa', 'pascal'],
              ]}
            />
            <SelectField
              {...units('temperature')}
              label="Temperature"
              options={[
                ['C', '°C'],
                ['F', '°F'],
              ]}
            />
            <SelectField
              {...units('length')}
              label="Length"
              options={[
                ['m', 'metres'],
                ['ft', 'feet'],
              ]}
            />
            <SelectField
              {...units('oil')}
              label="Oil"
              options={[
                ['mL', 'millilitres'],
                ['fl oz', 'fluid ounces'],
              ]}
            />
            <SelectField
              {...units('theme')}
              label="Look"
              options={[
                ['auto', 'as the device'],
                ['light', 'light'],
                ['dark', 'dark, for the plant room'],
              ]}
            />
            <SelectField
              {...units('notify')}
              label="Alarms"
              options={[
                ['outside', 'in Keg, and by the browser when Keg is not in front'],
                ['page', 'in Keg only'],
              ]}
            />
            <Field
              {...units('van')}
              label="Your van"
              maxLength={120}
              list={places}
              help="Its kit is your usual set: one tap in a job."
            />
          </div>
          <div className="form-foot">
            <Button type="submit" disabled={busy}>
              Save
            </Button>
          </div>
        </fieldset>
      </Form>
      <Form method="post" key={result?.done ?? 'password'}>
        <fieldset className="group">
          <legend>Your password</legend>
          <input type="hidden" name="intent" value="password" />
          <div className="form-grid">
            <Field
              {...password('oldPassword')}
              label="Password now"
              type="password"
              autoComplete="current-password"
            />
            <Field
              {...password('newPassword')}
              label="New password"
              type="password"
              autoComplete="new-password"
            />
          </div>
          <div className="form-foot">
            <Button type="submit" disabled={busy}>
              Change it
            </Button>
          </div>
        </fieldset>
      </Form>
    </>
  )
}
