import { useState } from 'react'
import { Button } from 'react-bootstrap'
import { Form } from 'react-router'
import { v4 as uuid } from 'uuid'
import type { Refused } from '~/base/form/read.server'
import { Field } from '~/base/ui/field'

/** Something that was noted by mistake: it stays there, with the reason, and counts no more. */
export function Strike({ actId, refused }: { actId: string; refused: Refused | undefined }) {
  const [strikeId] = useState(() => uuid())
  const error = refused?.errors[`strike ${actId}`]
  return (
    <details open={error !== undefined}>
      <summary className="quiet">Noted by mistake</summary>
      <Form method="post" className="row-of" preventScrollReset>
        <input type="hidden" name="what" value="strike" />
        <input type="hidden" name="actId" value={actId} />
        <input type="hidden" name="strikeId" value={strikeId} />
        <Field name="text" label="Why it is struck" maxLength={500} error={error} />
        <Button type="submit" variant="outline-danger">
          Strike it
        </Button>
      </Form>
    </details>
  )
}
