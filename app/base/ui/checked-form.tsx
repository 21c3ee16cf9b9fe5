import { joiResolver } from '@hookform/resolvers/joi'
import type Joi from 'joi'
import { type ReactNode, useMemo } from 'react'
import { FormProvider, useForm } from 'react-hook-form'
import { Form, useSubmit } from 'react-router'

interface CheckedFormProps {
  /** The same that the server reads it with; what only the server asks for is left to it. */
  schema: Joi.ObjectSchema
  className?: string
  action?: string
  children: ReactNode
}

/**
 * A form that is checked where it is typed, with the server's own schema, before it is sent. The server stays the judge,
 * and without scripts it is sent as it is.
 */
export function CheckedForm({ schema, children, ...form }: CheckedFormProps) {
  const submit = useSubmit()
  const resolver = useMemo(
    () => joiResolver(schema, { abortEarly: false, stripUnknown: true, allowUnknown: true }),
    [schema],
  )
  const checked = useForm<Record<string, string>>({ resolver, mode: 'onTouched', shouldFocusError: true })
  return (
    <FormProvider {...checked}>
      <Form
        method="post"
        noValidate
        {...form}
        onSubmit={(event) => {
          event.preventDefault()
          const sent = event.currentTarget
          const submitter = (event.nativeEvent as SubmitEvent).submitter as HTMLButtonElement | null
          void checked.handleSubmit(() => submit(submitter ?? sent))(event)
        }}
      >
        {children}
      </Form>
    </FormProvider>
  )
}
