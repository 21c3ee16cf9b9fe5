import type { FillRuleCode } from '#core/cylinders'

/** What is to be seen of a cylinder at a glance. */
export interface CylinderSight {
  /** Liquid now at 20 C, share of the height, 0 to 1. */
  level: number
  /** Where the limit lies, likewise; undefined where none is known. */
  limit?: number | undefined
  /** Contents against the limit. */
  share?: number | undefined
  grossLimitMg?: number
  governs?: FillRuleCode
  tags: [text: string, tone: 'limit' | 'amber' | 'copper'][]
}
