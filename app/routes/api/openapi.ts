import { SAMPLE_PATHS } from '~/pages/api/samples.server'
import { HOLD_PATHS } from '~/pages/api/hold.server'
import { openApi } from '~/pages/api/openapi.server'
import type { Route } from './+types/openapi'

/** What programs may ask, for whoever writes them. */
export function loader({ request }: Route.LoaderArgs) {
  const { origin } = new URL(process.env.KEG_ORIGIN ?? request.url)
  return Response.json(openApi(origin, { ...HOLD_PATHS, ...SAMPLE_PATHS }), {
    headers: { 'cache-control': 'public, max-age=300' },
  })
}
