import { startTransition, StrictMode } from 'react'
import { hydrateRoot } from 'react-dom/client'
import { HydratedRouter } from 'react-router/dom'
import { keepProgram } from './offline/program'
import { signOutOwed } from './offline/who'

void signOutOwed().then((out) => {
  // Whoever signed out without signal is not shown again.
  if (out) return location.replace('/sign-in')
  document.documentElement.style.removeProperty('display')
  keepProgram()
  startTransition(() => {
    hydrateRoot(
      document,
      <StrictMode>
        <HydratedRouter />
      </StrictMode>,
    )
  })
})
