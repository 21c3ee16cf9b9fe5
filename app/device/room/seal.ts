/** What only its writer can read again: the key is the server's to give, to whoever is signed in as them. */
export interface Sealed {
  iv: Uint8Array<ArrayBuffer>
  text: ArrayBuffer
}

const AES = 'AES-GCM'
/** Bytes; what the algorithm is made for. */
const IV = 12

/** Browsers have no cryptography on addresses that are not secure. */
export const canSeal = () => typeof crypto !== 'undefined' && 'subtle' in crypto

/** @param key 32 bytes in hex @param owner it opens for no other name */
export async function seal(key: string, owner: string, value: unknown): Promise<Sealed> {
  const iv = crypto.getRandomValues(new Uint8Array(IV))
  const plain = new TextEncoder().encode(JSON.stringify(value))
  return { iv, text: await crypto.subtle.encrypt(howWith(iv, owner), await keyOf(key), plain) }
}

/** @throws DOMException it was sealed with another key, for somebody else, or was changed since */
export async function unseal(key: string, owner: string, { iv, text }: Sealed): Promise<unknown> {
  const plain = await crypto.subtle.decrypt(howWith(iv, owner), await keyOf(key), text)
  return JSON.parse(new TextDecoder().decode(plain))
}

const howWith = (iv: Uint8Array<ArrayBuffer>, owner: string) => ({
  name: AES,
  iv,
  additionalData: new TextEncoder().encode(owner),
})

const keyOf = (hex: string) =>
  crypto.subtle.importKey(
    'raw',
    Uint8Array.from(hex.match(/../g) ?? [], (byte) => parseInt(byte, 16)),
    AES,
    false,
    ['encrypt', 'decrypt'],
  )
