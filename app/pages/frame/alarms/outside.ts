const ASKED = 'keg-notify-asked'

/** Whether the browser can tell outside of the page, and nobody was asked yet on this device. */
export function mayAskToNotify(): boolean {
  if (typeof Notification === 'undefined' || Notification.permission !== 'default') return false
  try {
    return localStorage.getItem(ASKED) === null
  } catch {
    // Nothing is kept here: it would be asked each time.
    return false
  }
}

export function neverAskToNotify() {
  try {
    localStorage.setItem(ASKED, '1')
  } catch {
    // A browser that keeps nothing was not asked.
  }
}

/** A note of the browser's own, where the page is not looked at and the person lets it. */
export function notifyOutside(title: string, body: string) {
  if (typeof Notification === 'undefined' || Notification.permission !== 'granted' || !document.hidden) return
  try {
    const note = new Notification(title, { body, tag: `${title} ${body}` })
    note.onclick = () => window.focus()
  } catch {
    // Some phones want a service worker for it: there the page still sounds and vibrates.
  }
}
