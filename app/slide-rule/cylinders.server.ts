import { refrigerantCode } from '#core/refrigerants'
import type { CylinderRow, ShopTx } from '#db'
import { cylindersThatMayTake } from '#db'
import type { Tool } from './tool'

/** The shop's cylinders, for a tool that looks at them once it is asked to. */
export async function cylindersFor(
  tx: ShopTx,
  tool: Tool,
  params: URLSearchParams,
): Promise<CylinderRow[] | undefined> {
  const asked = tool.usesCylinders && [...params.keys()].some((key) => key.startsWith('charge'))
  const refrigerant = refrigerantCode(params.get('refrigerant') ?? '')
  return asked && refrigerant ? cylindersThatMayTake(tx, refrigerant) : undefined
}
