import { createCookie } from 'react-router'

/** The session's token. Scripts cannot read it, other sites cannot send it. */
export const sessionCookie = createCookie('keg_session', {
  httpOnly: true,
  sameSite: 'lax',
  path: '/',
  maxAge: 14 * 24 * 3600,
  secure: process.env.KEG_ORIGIN?.startsWith('https:') ?? false,
})

export async function sessionToken(request: Request): Promise<string | undefined> {
  const token: unknown = await sessionCookie.parse(request.headers.get('cookie'))
  return typeof token === 'string' && token !== '' ? token : undefined
}
