/** Colours and letters of the page, for what is drawn into it. */
export function inkOf(element: HTMLElement) {
  const style = getComputedStyle(element)
  const colour = (name: string) => style.getPropertyValue(`--keg-${name}`)
  const { fontFamily } = style
  return { colour, fontFamily, text: { color: colour('quiet'), fontFamily, fontSize: 12 } }
}
