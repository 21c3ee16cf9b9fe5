import { useState } from 'react'
import { Link } from 'react-router'
import type { Refused } from '~/base/form/read.server'
import type { SystemChoice } from '~/systems/choice'
import { SystemPicker } from '~/device/page/system-picker'
import { Field, SelectField } from '~/base/ui/field'

interface FromSystemProps {
  systems: SystemChoice[]
  /** The one whose page led here. */
  system: SystemChoice | null
  refrigerants: readonly string[]
  refused: Refused | undefined
}

/** The way in with everything known: plate, lines and customer come with the system. */
export function FromSystem({ systems, system, refrigerants, refused }: FromSystemProps) {
  const field = (name: string) => ({ name, value: refused?.typed[name], error: refused?.errors[name] })
  const [systemId, setSystemId] = useState(refused?.typed.systemId ?? system?.systemId ?? '')
  return (
    <fieldset className="group">
      <legend>From a system</legend>
      <div className="form-grid">
        <SystemPicker
          name="systemId"
          offered={system ? [system, ...systems.filter((s) => s.systemId !== system.systemId)] : systems}
          value={systemId}
          onChoose={(chosen) => setSystemId(chosen?.systemId ?? '')}
          error={refused?.errors.systemId}
          help={
            <>
              Not in the list? <Link to="/systems/new">Add it</Link>, plate and customer with it.
            </>
          }
        />
        <SelectField
          {...field('refrigerant')}
          label="Gas in the system"
          options={[['', 'As on the plate'], ...refrigerants.map((r): [string, string] => [r, r])]}
        />
        <SelectField
          {...field('purpose')}
          label="What for"
          options={[
            ['service', 'Service or repair'],
            ['retrofit', 'Another gas goes in (retrofit)'],
          ]}
        />
        <Field {...field('title')} label="What the job is (may stay empty)" maxLength={200} />
      </div>
    </fieldset>
  )
}
