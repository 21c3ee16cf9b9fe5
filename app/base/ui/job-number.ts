/** A job by its number; one that was begun without signal gets it from the server. */
export const jobNumber = (number: number | null): string =>
  number === null ? 'New job, no number yet' : `Job ${number}`
