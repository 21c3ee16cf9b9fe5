/**
 * Asks Keg for something beside the page.
 * @returns undefined without an answer of Keg's: no way to it, one that was cut off, or somebody else's in between
 */
export async function ask<T extends object>(address: string): Promise<T | undefined> {
  try {
    const response = await fetch(address)
    if (!response.ok || response.redirected) return undefined
    return (await response.json()) as T
  } catch {
    return undefined
  }
}
