import { problem } from '~/api/problem.server'

/** Any other address under /api. */
export function loader() {
  return problem(
    404,
    'Nothing here',
    'There is nothing at this address: /api/v1/openapi.json says what there is.',
  )
}

export const action = loader
