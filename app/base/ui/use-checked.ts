import { useFormContext } from 'react-hook-form'

/** A field of the checked form around it; outside of one it is a plain field. */
export function useChecked(name: string | undefined, error: string | undefined) {
  const form = useFormContext() as ReturnType<typeof useFormContext> | null
  if (!form || name === undefined) return { registered: undefined, error, set: () => {} }
  const own = form.formState.errors[name]?.message
  return {
    registered: form.register(name),
    error: typeof own === 'string' ? own : error,
    set: (value: string) =>
      form.setValue(name, value, { shouldTouch: true, shouldValidate: form.formState.isSubmitted }),
  }
}
