import type { CylinderRow, JobSummary, KitRow, SystemRow } from '#db'
import { ID } from '~/base/form/id'
import { TOOLS } from '~/slide-rule/tools'
import { jobNumber } from '~/base/ui/job-number'
import { KIT_KIND_WORDS } from '~/words/en'

export interface Found {
  group: 'Page' | 'Tools' | 'Cylinders' | 'Kit' | 'Systems' | 'Jobs'
  to: string
  name: string
  beside: string
}

/** So many of each. */
export const OF_EACH = 6
const PAGES: Record<string, string> = {
  cylinders: 'Cylinder',
  kit: 'Kit',
  systems: 'System',
  jobs: 'Job',
}

/** An address of ours, as a code on a label has it: that page and nothing else, whichever host it was printed for. */
export function pageIn(text: string): Found | undefined {
  const found = /^(?:https?:\/\/[^/\s]+)?\/([a-z]+)\/([0-9a-f-]{36})\/?$/i.exec(text)
  const [kind, id] = [found?.[1]?.toLowerCase() ?? '', found?.[2]?.toLowerCase() ?? '']
  if (!Object.hasOwn(PAGES, kind) || !ID.test(id)) return undefined
  return { group: 'Page', to: `/${kind}/${id}`, name: PAGES[kind]!, beside: 'as scanned' }
}

export function toolsLike(search: string): Found[] {
  const words = search.toLowerCase().split(/\s+/)
  return TOOLS.filter((tool) => {
    const text = `${tool.title} ${tool.question} ${tool.name}`.toLowerCase()
    return words.every((word) => text.includes(word))
  }).map((tool) => ({
    group: 'Tools',
    to: `/slide-rule/${tool.name}`,
    name: tool.title,
    beside: tool.question,
  }))
}

interface Rows {
  cylinders: Pick<CylinderRow, 'cylinderId' | 'label' | 'refrigerant'>[]
  kit: Pick<KitRow, 'kitId' | 'label' | 'kind'>[]
  systems: Pick<SystemRow, 'systemId' | 'name' | 'customer' | 'site'>[]
  jobs: (Pick<JobSummary, 'jobId' | 'title' | 'system'> & { number: number | null })[]
}

export const foundRows = ({ cylinders, kit, systems, jobs }: Rows): Found[] => [
  ...cylinders.map((c): Found => ({
    group: 'Cylinders',
    to: `/cylinders/${c.cylinderId}`,
    name: c.label,
    beside: c.refrigerant ?? 'empty',
  })),
  ...kit.map((k): Found => ({
    group: 'Kit',
    to: `/kit/${k.kitId}`,
    name: k.label,
    beside: KIT_KIND_WORDS[k.kind],
  })),
  ...systems.map((s): Found => ({
    group: 'Systems',
    to: `/systems/${s.systemId}`,
    name: s.name,
    beside: `${s.customer}, ${s.site}`,
  })),
  ...jobs.map((j): Found => ({
    group: 'Jobs',
    to: `/jobs/${j.jobId}`,
    name: jobNumber(j.number),
    beside: j.title || j.system || '',
  })),
]
