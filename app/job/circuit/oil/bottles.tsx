import { Form } from 'react-bootstrap'
import type { JobKit } from '~/kit/job-kit'
import { useJob } from '~/job/field/job-context'

/** Bottles of oil, or of dye, to choose from. */
export function useBottles(contents: 'oil' | 'dye'): JobKit[] {
  const { data } = useJob()
  return data.kit.filter((each) => each.kind === 'bottle' && (each.facts.contents ?? 'oil') === contents)
}

const bottleName = ({ label, facts }: JobKit) =>
  [label, [facts.oilType, facts.viscosity].filter(Boolean).join(' '), facts.dyed && 'with dye']
    .filter(Boolean)
    .join(', ')

interface BottleChoiceProps {
  id: string
  bottles: JobKit[]
  chosen: JobKit | undefined
  choose: (kitId: string) => void
}

/** Which bottle it comes from: one of Kit, or one that nobody has entered. */
export function BottleChoice({ id, bottles, chosen, choose }: BottleChoiceProps) {
  return (
    <Form.Group className="field">
      <Form.Label htmlFor={id}>From which bottle</Form.Label>
      <Form.Select id={id} value={chosen?.kitId ?? ''} onChange={(event) => choose(event.target.value)}>
        <option value="">one that is not in Kit</option>
        {bottles.map((each) => (
          <option key={each.kitId} value={each.kitId}>
            {bottleName(each)}
          </option>
        ))}
      </Form.Select>
    </Form.Group>
  )
}
