import { createContext, use } from 'react'

/** What the server put into the page: on the server from the request, in the browser from the page itself. */
export const PageFacts = createContext<{ nonce: string; reference: string } | undefined>(undefined)

export function usePageFacts(): { nonce: string; reference: string } {
  const given = use(PageFacts)
  if (given) return given
  if (typeof document === 'undefined') return { nonce: '', reference: '' }
  return {
    nonce: document.querySelector<HTMLScriptElement>('script[nonce]')?.nonce ?? '',
    reference: document.querySelector<HTMLMetaElement>('meta[name=keg-reference]')?.content ?? '',
  }
}
