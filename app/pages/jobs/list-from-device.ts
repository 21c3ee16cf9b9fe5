import { has, pageOf, sorted } from '~/device/known/lists'
import type { FromDevice } from '~/device/page/page'
import { JOBS_PAGE, type JobsData, jobsWish } from './list-data'

export const jobs: FromDevice<JobsData> = (device, { search: address }) => {
  const wished = jobsWish(address)
  const { status, search } = wished.filter
  const fitting = device
    .inHand()
    .filter((each) => !status || each.status === status)
    .filter(
      ({ title, system, customer, number }) =>
        !search || [title, system, customer].some((text) => has(text, search)) || String(number) === search,
    )
  const { sort, down, number } = wished.wish
  const by = sort === 'number' ? (job: Job) => job.number : (job: Job) => job.lastAt.getTime()
  return {
    ...wished,
    jobs: pageOf(
      sorted(fitting, by, ({ jobId }) => jobId, down),
      number,
      JOBS_PAGE,
    ),
    count: fitting.length,
    pages: Math.max(1, Math.ceil(fitting.length / JOBS_PAGE)),
    onlyInHand: true,
    timeZone: device.pack.shop.timeZone,
  }
}

type Job = JobsData['jobs'][number]
