import { hash, verify } from '@node-rs/argon2'

export const LEAST_PASSWORD_LENGTH = 10

/** argon2id with the library's defaults (19 MiB, two passes). */
export function hashPassword(password: string): Promise<string> {
  return hash(password)
}

let nobody: Promise<string> | undefined

/** Takes as long for a name that nobody has as for one that somebody has. */
export async function passwordFits(password: string, passwordHash: string | undefined): Promise<boolean> {
  nobody ??= hash('nobody has this password')
  const fits = await verify(passwordHash ?? (await nobody), password)
  return fits && passwordHash !== undefined
}
