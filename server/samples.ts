import { randomBytes } from 'node:crypto'
import express, {
  type ErrorRequestHandler,
  type Request,
  type RequestHandler,
  type Response as Answer,
} from 'express'
import { answerBatch, onlyPost } from '~/samples/batch.server'
import { problem } from '~/api/problem.server'
import { LARGEST_BODY } from './guard'

/**
 * Samples come hundreds of times a second. They go past the routes of the pages: what a page's request is made of takes
 * longer than to take them, and stays in memory long after them.
 */
export const samples: (RequestHandler | ErrorRequestHandler)[] = [
  express.text({ type: () => true, limit: LARGEST_BODY }),
  unread,
  async (request: Request, answer: Answer) => {
    if (request.method !== 'POST') return send(answer, onlyPost())
    const result = await answerBatch({
      authorization: request.get('authorization') ?? null,
      address: request.ip ?? '',
      reference: randomBytes(4).toString('hex'),
      text: typeof request.body === 'string' ? request.body : '',
    })
    if (result instanceof Response) return send(answer, result)
    answer.set('cache-control', 'no-store').json(result)
  },
]

/** A body that broke off, or is packed in a way that nobody here can open. */
function unread(
  error: Error & { status?: number },
  _request: Request,
  answer: Answer,
  next: (e: Error) => void,
) {
  if (!error.status || error.status >= 500) return next(error)
  return send(
    answer,
    problem(error.status, 'The body could not be read', 'Send the batch as JSON, in UTF-8.'),
  )
}

async function send(answer: Answer, result: Response): Promise<void> {
  for (const [name, value] of result.headers) answer.set(name, value)
  answer.status(result.status).send(await result.text())
}
