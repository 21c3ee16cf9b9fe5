/** Answers after which the same is never taken. */
export const NEVER = [400, 403, 404, 413, 422]

const LONGEST = 300

/** What the server says of it; something in between may say anything. */
export function sentenceIn(text: string): string {
  const plain = text.trim().replace(/^"|"$/g, '')
  return plain === '' || plain.length > LONGEST || /[<{]/.test(plain)
    ? 'The server does not take it like this.'
    : plain
}
