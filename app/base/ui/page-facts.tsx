import { createContext, use } from 'react'

/** What the server put into the page: on the server from the request, in the browser from the page itself. */
export const PageFacts = createContext<Facts | undefined>(undefined)

interface Facts {
  nonce: string
  reference: string
  /** Version of the program that made the page. */
  build: string
  /** It was opened as the shell: what belongs to one page comes after it. */
  shell: boolean
}

export function usePageFacts(): Facts {
  const given = use(PageFacts)
  if (given) return given
  if (typeof document === 'undefined') return { nonce: '', reference: '', build: '', shell: false }
  return {
    nonce: document.querySelector<HTMLScriptElement>('script[nonce]')?.nonce ?? '',
    reference: metaIn('keg-reference'),
    build: ownBuild(),
    shell: isShell(),
  }
}

/** Version of the program that this page is of; '': of none that was built. */
export const ownBuild = () => metaIn('keg-build')

/** It was opened from the device, and knows nobody. */
export const isShell = () => metaIn('keg-shell') === 'yes'

const metaIn = (name: string) => document.querySelector<HTMLMetaElement>(`meta[name=${name}]`)?.content ?? ''
