import type { Tool } from '../tool'
import charge from './charge'
import endLevel from './end-level'
import evacuationTime from './evacuation-time'
import expectedCharge from './expected-charge'
import fill from './fill'
import hoses from './hoses'
import identify from './identify'
import lead from './lead'
import leakRate from './leak-rate'
import oil from './oil'
import pressureHold from './pressure-hold'
import rebound from './rebound'
import room from './room'
import saturation from './saturation'
import superheat from './superheat'
import timeLeft from './time-left'
import weights from './weights'

/** The tools in the order of the work. */
export const GROUPS: [title: string, tools: Tool[]][] = [
  ['Before it is opened', [weights, saturation, identify, expectedCharge, fill]],
  ['Recover', [endLevel, rebound, timeLeft]],
  ['Tight and dry', [pressureHold, hoses, evacuationTime]],
  ['Charge and check', [oil, charge, superheat]],
  ['Rules and site', [leakRate, room, lead]],
]

export const TOOLS: Tool[] = GROUPS.flatMap(([, tools]) => tools)

export const toolNamed = (name: string | undefined): Tool | undefined => TOOLS.find((t) => t.name === name)
