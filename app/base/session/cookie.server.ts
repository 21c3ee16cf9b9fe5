import { createCookie } from 'react-router'

/** The session's token. Scripts cannot read it, other sites cannot send it. */
export const sessionCookie = createCookie('keg_session', {
  httpOnly: true,
  sameSite: 'lax',
  path: '/',
  maxAge: 14 * 24 * 3600,
  secure: process.env.KEG_ORIGIN?.startsWith('https:') ?? false,
})

/**
 * Marks of whoever has signed in here before, the newest first: they open nothing, but a stranger's wrong passwords do not
 * lock out whoever is known here.
 */
const knownCookie = createCookie('keg_known', {
  httpOnly: true,
  sameSite: 'lax',
  path: '/',
  maxAge: 180 * 24 * 3600,
  secure: process.env.KEG_ORIGIN?.startsWith('https:') ?? false,
})

/** So many people share one browser at the most. */
const MOST_KNOWN = 6

export async function marksIn(request: Request): Promise<string[]> {
  const marks: unknown = await knownCookie.parse(request.headers.get('cookie'))
  return Array.isArray(marks)
    ? marks
        .filter((mark): mark is string => typeof mark === 'string' && mark.length < 80)
        .slice(0, MOST_KNOWN)
    : []
}

/** @param mark of whoever has signed in now */
export const withMark = (marks: readonly string[], mark: string): Promise<string> =>
  knownCookie.serialize([mark, ...marks.filter((each) => each !== mark)].slice(0, MOST_KNOWN))

export async function sessionToken(request: Request): Promise<string | undefined> {
  const token: unknown = await sessionCookie.parse(request.headers.get('cookie'))
  return typeof token === 'string' && token !== '' ? token : undefined
}
