// What is worked out in a thread of its own, because it may take longer than anybody should wait for an answer. Each task
// takes and gives what can be cloned; this file is built by itself (vite.threads.config.ts).
import { bringArchive } from '~/exchange/bring-archive.server'
import { layOutCalendar } from '~/kit/calendar'
import { layOutReport } from '~/job/paper/pdf/pdf.server'

export const TASKS = { layOutReport, layOutCalendar, bringArchive }

export type Task = keyof typeof TASKS
export type Given<T extends Task> = Parameters<(typeof TASKS)[T]>[0]
export type Made<T extends Task> = Awaited<ReturnType<(typeof TASKS)[T]>>

export default function work<T extends Task>({
  task,
  given,
}: {
  task: T
  given: Given<T>
}): Promise<Made<T>> {
  return TASKS[task](given as never) as Promise<Made<T>>
}
