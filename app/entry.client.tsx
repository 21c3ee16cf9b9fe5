import { startTransition, StrictMode } from 'react'
import { hydrateRoot } from 'react-dom/client'
import { HydratedRouter } from 'react-router/dom'
import { keepProgram } from '~/device/news/program'
import { hearWorker, signOutOwed } from '~/device/who/who'
import { isShell } from '~/base/ui/page-facts'

void signOutOwed().then((out) => {
  // Whoever signed out without signal is not shown again.
  if (out === 'told') return location.replace('/sign-in')
  // A page of theirs, which the server has rendered because it does not know yet.
  if (out === 'owed' && !isShell()) document.body.replaceChildren(notYetHeard())
  document.documentElement.style.removeProperty('display')
  if (out === 'owed' && !isShell()) return
  keepProgram()
  hearWorker()
  startTransition(() => {
    hydrateRoot(
      document,
      <StrictMode>
        <HydratedRouter />
      </StrictMode>,
    )
  })
})

function notYetHeard(): HTMLElement {
  const says = Object.assign(document.createElement('p'), {
    textContent:
      'Somebody has signed out on this device, and the server has not heard it yet. Nothing opens here before it has.',
  })
  const again = Object.assign(document.createElement('a'), {
    className: 'btn btn-primary btn-big',
    href: '',
    textContent: 'Try again',
  })
  const main = Object.assign(document.createElement('main'), { className: 'door' })
  main.append(says, again)
  return main
}
