import { HOLD_TOOL } from '~/slide-rule/hold/outcome'
import { GROUPS } from '~/slide-rule/tools'

/** The group of the one tool whose input is a list. */
const HOLD_AMONG = 'Tight and dry'

/** The tools as the page lists them. */
export const toolGroups = () =>
  GROUPS.map(([title, tools]) => ({
    title,
    tools: [...tools, ...(title === HOLD_AMONG ? [HOLD_TOOL] : [])].map(({ name, title, question }) => ({
      name,
      title,
      question,
    })),
  }))
