const RUNG = 'keg-rung'
const MOST = 60

/** Once for each clock, in whichever tab is first. @returns whether it is for this tab to call */
export function firstToRing(clockId: string): boolean {
  try {
    const rung = JSON.parse(localStorage.getItem(RUNG) ?? '[]') as unknown
    const list = Array.isArray(rung) ? rung.filter((each): each is string => typeof each === 'string') : []
    if (list.includes(clockId)) return false
    localStorage.setItem(RUNG, JSON.stringify([clockId, ...list].slice(0, MOST)))
    return true
  } catch {
    return true
  }
}

/** Vibrates and sounds, as far as the device lets it: some only after the page was touched. */
export function ring() {
  // Before the first touch a browser lets nothing vibrate, and says so.
  if ('vibrate' in navigator && navigator.userActivation?.hasBeenActive !== false)
    navigator.vibrate([300, 150, 300, 150, 600])
  if (typeof AudioContext === 'undefined') return
  const audio = new AudioContext()
  const end = () => void audio.close()
  if (audio.state === 'suspended') {
    // Not touched yet: it is seen, and felt.
    end()
    return
  }
  for (const [i, frequency] of [880, 660, 880].entries()) {
    const tone = audio.createOscillator()
    const loud = audio.createGain()
    loud.gain.value = 0.2
    tone.frequency.value = frequency
    tone.connect(loud).connect(audio.destination)
    tone.start(audio.currentTime + i * 0.3)
    tone.stop(audio.currentTime + i * 0.3 + 0.25)
    if (i === 2) tone.onended = end
  }
}
