/** Single keys, what they do, and where they go. */
export const KEYS: [key: string, what: string, to?: string][] = [
  ['b', 'Bench', '/'],
  ['c', 'Cylinders', '/cylinders'],
  ['s', 'Systems', '/systems'],
  ['r', 'Slide rule', '/slide-rule'],
  ['l', 'Ledger', '/ledger'],
  ['/', 'Find a tool, a cylinder, a system or a job'],
  ['n', 'New job', '/jobs/new'],
  ['e', 'On a job: to the quick-entry line'],
  ['?', 'This list'],
]
/** Where it is kept that somebody wants none of them. */
export const OFF = 'keg-no-shortcuts'
