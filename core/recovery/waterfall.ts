/** A step from what was expected to what came out, mg: a sum, or what is added or taken away. */
export interface WaterfallStep {
  what:
    | 'plate'
    | 'line'
    | 'accessory'
    | 'panel-total'
    | 'books'
    | 'added-here'
    | 'expected'
    | 'kept'
    | 'left-behind'
    | 'missing'
    | 'more'
    | 'recovered'
  name: string
  massMg: number
  sum: boolean
  /** Where its bar begins, mg: a sum stands on zero, a step on what came before. */
  fromMg: number
}

export interface WaterfallOf {
  /** What makes up the expected charge. */
  parts: readonly {
    what: 'plate' | 'line' | 'accessory' | 'panel-total' | 'books'
    name: string
    massMg: number
  }[]
  expectedMg: number
  /** In cylinders, net of what was added in this job. */
  recoveredMg: number
  /** In a machine that was not purged. */
  keptMg: number
  /** What a recovery leaves behind at the most. */
  restMg: number
}

/** From what should have been in there to what came out, step by step: the steps between two sums add up to their difference. */
export function waterfall({ parts, expectedMg, recoveredMg, keptMg, restMg }: WaterfallOf): WaterfallStep[] {
  const sum = parts.reduce((all, each) => all + each.massMg, 0)
  const steps: Omit<WaterfallStep, 'fromMg'>[] = parts.map((each) => ({ ...each, sum: false }))
  if (sum !== expectedMg) steps.push({ what: 'added-here', name: '', massMg: expectedMg - sum, sum: false })
  steps.push({ what: 'expected', name: '', massMg: expectedMg, sum: true })
  const step = (what: WaterfallStep['what'], massMg: number) =>
    massMg !== 0 && steps.push({ what, name: '', massMg, sum: false })
  step('kept', -keptMg)
  const short = expectedMg - keptMg - recoveredMg
  const left = Math.max(0, Math.min(restMg, short))
  step('left-behind', -left)
  if (short - left > 0) step('missing', -(short - left))
  else if (short < 0) step('more', -short)
  steps.push({ what: 'recovered', name: '', massMg: recoveredMg, sum: true })
  let at = 0
  return steps.map((each) => {
    const fromMg = each.sum ? 0 : Math.min(at, at + each.massMg)
    at = each.sum ? each.massMg : at + each.massMg
    return { ...each, fromMg }
  })
}
