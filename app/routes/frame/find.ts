import { findCylinders, findJobs, inShop, systems } from '#db'
import { asked } from '~/form/search.server'
import { signedIn } from '~/session/signed-in.server'
import { TOOLS } from '~/slide-rule/tools'
import type { Route } from './+types/find'

export interface Found {
  group: 'Tools' | 'Cylinders' | 'Systems' | 'Jobs'
  to: string
  name: string
  beside: string
}

const OF_EACH = 6

/** Tools, cylinders, systems and jobs by a few letters. */
export async function loader({ request, context }: Route.LoaderArgs) {
  const { shop } = signedIn(context)
  const search = asked(new URL(request.url).searchParams, 'q', 60)
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
  if (search === '') return Response.json({ search, found: tools })
  const found = await inShop(shop.shopId, async (tx): Promise<Found[]> => {
    const [cylinders, plants, jobs] = await Promise.all([
      findCylinders(tx, search),
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
