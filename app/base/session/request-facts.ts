import { createContext } from 'react-router'

/** What the server knows of a request before anyone is signed in. */
export interface RequestFacts {
  /** Scripts and styles of this answer carry it. */
  nonce: string
  /** Names this request in the log and on an error page. */
  reference: string
  /** Version of the program that answers. */
  build: string
  /** The page is the shell: the program, and nobody's data. */
  shell: boolean
  /** The browser's address. */
  address: string
}

export const requestFacts = createContext<RequestFacts>()
