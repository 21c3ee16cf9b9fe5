import { PassThrough } from 'node:stream'
import { createReadableStreamFromReadable } from '@react-router/node'
import { isbot } from 'isbot'
import { renderToPipeableStream, type RenderToPipeableStreamOptions } from 'react-dom/server'
import {
  type EntryContext,
  isRouteErrorResponse,
  type RouterContextProvider,
  ServerRouter,
} from 'react-router'
import { log } from '~/base/session/log.server'
import { requestFacts } from '~/base/session/request-facts'
import { PageFacts } from '~/base/ui/page-facts'

const RENDER_MS = 8_000

export default function handleRequest(
  request: Request,
  status: number,
  headers: Headers,
  routerContext: EntryContext,
  context: RouterContextProvider,
) {
  const { nonce, reference, build, shell } = context.get(requestFacts)
  return new Promise<Response>((resolve, reject) => {
    let answered = false
    const ready: keyof RenderToPipeableStreamOptions = isbot(request.headers.get('user-agent') ?? '')
      ? 'onAllReady'
      : 'onShellReady'
    const { pipe, abort } = renderToPipeableStream(
      <PageFacts value={{ nonce, reference, build, shell }}>
        <ServerRouter context={routerContext} url={request.url} nonce={nonce} />
      </PageFacts>,
      {
        nonce,
        [ready]() {
          answered = true
          const body = new PassThrough()
          headers.set('content-type', 'text/html; charset=utf-8')
          resolve(new Response(createReadableStreamFromReadable(body), { headers, status }))
          pipe(body)
        },
        onShellError: reject,
        onError(error: unknown) {
          if (answered) log.error({ reference, err: error }, 'render failed')
        },
      },
    )
    // Only now: rendering may have failed already while it was being set up.
    setTimeout(abort, RENDER_MS).unref()
  })
}

/** Loaders and actions that failed in a way nobody foresaw. */
export function handleError(
  error: unknown,
  { request, context }: { request: Request; context: Readonly<RouterContextProvider> },
) {
  if (request.signal.aborted || isRouteErrorResponse(error)) return
  const { reference } = context.get(requestFacts)
  log.error(
    { reference, err: error, method: request.method, path: new URL(request.url).pathname },
    'request failed',
  )
}
