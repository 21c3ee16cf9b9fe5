import { createContext } from 'react-router'

/** What the server knows of a request before anyone is signed in. */
export interface RequestFacts {
  /** Scripts and styles of this answer carry it. */
  nonce: string
  /** Names this request in the log and on an error page. */
  reference: string
  /** The browser's address. */
  address: string
}

export const requestFacts = createContext<RequestFacts>()
