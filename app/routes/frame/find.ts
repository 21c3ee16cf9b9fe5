import { findCylinders, findJobs, findKit, inShop, systems } from '#db'
import { ID } from '~/form/id'
import { KIT_KIND_WORDS } from '~/wording/en'
import { asked } from '~/form/search.server'
import { signedIn } from '~/session/signed-in.server'
import { TOOLS } from '~/slide-rule/tools'
import type { Route } from './+types/find'

export interface Found {
  group: 'Page' | 'Tools' | 'Cylinders' | 'Kit' | 'Systems' | 'Jobs'
  to: string
  name: string
  beside: string
}

const OF_EACH = 6
const PAGES: Record<string, string> = {
  cylinders: 'Cylinder',
  kit: 'Kit',
  systems: 'System',
  jobs: 'Job',
}

/** An address of ours, as a code on a label has it: that page and nothing else, whichever host it was printed for. */
function pageIn(text: string): Found | undefined {
  const found = /^(?:https?:\/\/[^/\s]+)?\/([a-z]+)\/([0-9a-f-]{36})\/?$/i.exec(text)
  const [kind, id] = [found?.[1]?.toLowerCase() ?? '', found?.[2]?.toLowerCase() ?? '']
  if (!Object.hasOwn(PAGES, kind) || !ID.test(id)) return undefined
  return { group: 'Page', to: `/${kind}/${id}`, name: PAGES[kind]!, beside: 'as scanned' }
}

/** Tools, cylinders, systems and jobs by a few letters. */
export async function loader({ request, context }: Route.LoaderArgs) {
  const { shop } = signedIn(context)
  const search = asked(new URL(request.url).searchParams, 'q', 200)
  const words = search.toLowerCase().split(/\s+/)
  const tools = TOOLS.filter((tool) => {
    const text = `${tool.title} ${tool.question} ${tool.name}`.toLowerCase()
    return words.every((word) => text.includes(word))
  }).map((tool): Found => ({
    group: 'Tools',
    to: `/slide-rule/${tool.name}`,
    name: tool.title,
    beside: tool.question,
  }))
  const page = pageIn(search)
  if (page) return Response.json({ search, found: [page] })
  if (search === '') return Response.json({ search, found: tools })
  const found = await inShop(shop.shopId, async (tx): Promise<Found[]> => {
    const [cylinders, kit, plants, jobs] = await Promise.all([
      findCylinders(tx, search),
      findKit(tx, search, OF_EACH),
      systems(tx, search, OF_EACH),
      findJobs(tx, search, OF_EACH),
    ])
    return [
      ...cylinders.slice(0, OF_EACH).map((c): Found => ({
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
      ...plants.map((s): Found => ({
        group: 'Systems',
        to: `/systems/${s.systemId}`,
        name: s.name,
        beside: `${s.customer}, ${s.site}`,
      })),
      ...jobs.map((j): Found => ({
        group: 'Jobs',
        to: `/jobs/${j.jobId}`,
        name: `Job ${j.number}`,
        beside: j.title || j.system || '',
      })),
    ]
  })
  return Response.json({ search, found: [...tools.slice(0, OF_EACH), ...found] })
}
