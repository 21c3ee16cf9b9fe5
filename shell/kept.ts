/** Files of the program by their path, each with the beginning of the SHA-256 of what is in it, base64url. */
export type Files = Readonly<Record<string, string>>

/** So much of a hash tells a file from whatever something in between answers in its place. */
export const HASH_LENGTH = 16

/** @returns the same as the build has worked out, for what came */
export async function hashOf(content: ArrayBuffer): Promise<string> {
  const bytes = new Uint8Array(await crypto.subtle.digest('SHA-256', content))
  return btoa(String.fromCharCode(...bytes))
    .replaceAll('+', '-')
    .replaceAll('/', '_')
    .slice(0, HASH_LENGTH)
}

/** An answer is the file that was asked for, to the letter: no page of a hotel's network, no half of it. */
export async function isFile(answer: Response, hash: string): Promise<boolean> {
  return answer.ok && !answer.redirected && (await hashOf(await answer.clone().arrayBuffer())) === hash
}

/** The shell, of this build: it says so itself. */
export async function isShell(answer: Response, build: string): Promise<boolean> {
  if (!answer.ok || answer.redirected || !answer.headers.get('content-type')?.startsWith('text/html'))
    return false
  const text = await answer.clone().text()
  return (
    new RegExp(`<meta name="keg-build" content="${build}"`).test(text) &&
    /<meta name="keg-shell" content="yes"/.test(text)
  )
}

/**
 * Keeps what is not kept yet, or is kept wrong; so many at once.
 * @param known what other versions have kept: looked at before it is handed on
 * @throws Error when a file came as something else: then nothing of this version is to be used
 */
export async function keepFiles(
  files: Files,
  own: Cache,
  known: (file: string) => Promise<Response | undefined>,
  atOnce: number,
): Promise<void> {
  const wanted = Object.entries(files)
  const take = async () => {
    for (let next = wanted.shift(); next !== undefined; next = wanted.shift()) {
      const [file, hash] = next
      const here = await own.match(file)
      if (here && (await isFile(here, hash))) continue
      const before = await known(file)
      const handed = before && (await isFile(before, hash)) ? before : undefined
      const answer = handed ?? (await fetch(file, { cache: 'no-cache' }))
      if (!(await isFile(answer, hash))) throw new Error(`${file} came as something else (${answer.status}).`)
      await own.put(file, answer)
    }
  }
  await Promise.all(Array.from({ length: atOnce }, take))
}
