/** One input that has no result, in a problem document. */
export interface InputProblem {
  name: string
  sentence: string
}

/** An error as programs read it: problem+json (RFC 9457). */
export function problem(
  status: number,
  title: string,
  detail: string,
  more: { errors?: InputProblem[]; reference?: string; headers?: Record<string, string> } = {},
): Response {
  const { headers, ...members } = more
  return Response.json(
    { type: 'about:blank', title, status, detail, ...members },
    {
      status,
      headers: { 'content-type': 'application/problem+json', ...headers },
    },
  )
}
