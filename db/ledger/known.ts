import type { Fragment } from 'postgres'
import type { ShopTx } from '../connection'

/**
 * Whether the books know all that is in a system, as a condition: some job has emptied it, and none since has added to what
 * was in it, which says that it had lost something.
 * @param system the system's id, or a column that has it
 * @param among which jobs count, by the alias of their summary
 */
export const knowTheWhole = (
  tx: ShopTx,
  system: Fragment,
  among: (job: 'e' | 't') => Fragment = () => tx`true`,
): Fragment => tx`
  exists (select 1 from job_summary e
    where e.shop_id = current_shop() and e.system_id = ${system} and e.emptied and ${among('e')}
      and not exists (select 1 from movement m join job_summary t on t.shop_id = m.shop_id and t.job_id = m.job_id
        where m.shop_id = e.shop_id and m.to_system = ${system} and m.from_cylinder is not null
          and not t.emptied and t.opened_at > e.opened_at and ${among('t')}))`
