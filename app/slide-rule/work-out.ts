import { NoFillLimitError } from '#core/cylinders'
import type { Outcome } from './outcome'
import { readInputs, type ReadInputs } from './read'
import { Refusal, type Surroundings, type Tool } from './tool'

export type WorkedOut = ReadInputs & { outcome?: Outcome }

/** Reads the inputs and works the result out, where they are complete and sensible. */
export function workOut(
  tool: Tool,
  params: URLSearchParams,
  surroundings: Surroundings,
  strict = false,
): WorkedOut {
  const read = readInputs(tool, params, { reading: surroundings.reading, strict })
  if (Object.keys(read.errors).length > 0 || read.missing.length > 0) return read
  try {
    const outcome = tool.work(read.values, { ...surroundings, reading: read.reading })
    const strange = outcome.figures.find(({ value }) => !Number.isFinite(value))
    if (strange) throw new Error(`${tool.name}: ${strange.name} is no number`)
    return { ...read, outcome }
  } catch (error) {
    if (error instanceof Refusal) return { ...read, errors: error.errors }
    if (error instanceof NoFillLimitError) return { ...read, errors: { refrigerant: error.message } }
    throw error
  }
}
