const NAME = 'keg_session'

const valueOf = (token: string) => encodeURIComponent(Buffer.from(JSON.stringify(token)).toString('base64'))

/** The header with which a browser sends a session's token. */
export const cookieOf = (token: string): string => `${NAME}=${valueOf(token)}`

/** The cookie as a browser keeps it. */
export const sessionOf = (token: string, url: string) => ({
  name: NAME,
  value: valueOf(token),
  url,
  httpOnly: true,
  sameSite: 'Lax' as const,
})
