import { useEffect } from 'react'
import { Button } from 'react-bootstrap'
import { useFormContext } from 'react-hook-form'

/** How many fields of a long form were refused, beside its button, with a way to the first of them. */
export function ErrorCount({ errors }: { errors: Record<string, string> | undefined }) {
  const form = useFormContext() as ReturnType<typeof useFormContext> | null
  // What was found where it is typed comes before what the server said of the last try.
  const own = form ? Object.keys(form.formState.errors).length : 0
  const count = own > 0 ? own : errors ? Object.keys(errors).length : 0
  useEffect(() => {
    if (errors && Object.keys(errors).length > 0) toFirst()
  }, [errors])
  if (count === 0) return null
  return (
    <p className="field-error mb-0" role="alert">
      {count === 1 ? 'One field needs a look.' : `${count} fields need a look.`}{' '}
      <Button variant="link" className="p-0" onClick={toFirst}>
        To the first
      </Button>
    </p>
  )
}

function toFirst() {
  const first = document.querySelector<HTMLElement>('.is-invalid')
  first?.focus()
  first?.scrollIntoView({ block: 'center' })
}
