import { toDataURL } from 'qrcode'
import { gainedFrom } from '#core/unsent'
import { machineOf, inBay, type JobBeside, type JobData, jobData, kitUsedBy, usedBy } from '~/job-data/data'
import type { Device, DeviceJob } from '~/device/known/device'
import { knownBefore, plateFound } from '~/device/known/systems'
import type { FromDevice, Wish } from '~/device/page/page'
import { SYSTEMS_SHOWN } from '~/systems/choice'

interface JobParams {
  jobId: string
}

export const job: FromDevice<JobData, JobParams> = (device, wish) => {
  const known = device.job(wish.params.jobId.toLowerCase())
  // One that the server has said there is none of is shown where it was begun here.
  if (!known || (wish.unknownThere && known.packed)) return undefined
  return dataOf(device, known, wish.at)
}

type Labelled<T> = FromDevice<T, JobParams>

/** Made here, as the server makes it. */
const codeOf = (address: string) => toDataURL(address, { margin: 0, width: 160 })

export const label: Labelled<{ job: JobData; code: string }> = async (device, wish) => {
  const data = await job(device, wish)
  if (!data) return undefined
  const place = data.system ? `/systems/${data.system.systemId}` : `/jobs/${data.jobId}`
  return { job: data, code: await codeOf(device.pack.origin + place) }
}

export const cylinderLabels: Labelled<{ job: JobData; codes: Record<string, string> }> = async (
  device,
  wish,
) => {
  const data = await job(device, wish)
  if (!data) return undefined
  const codes = data.cylinders.map(
    async ({ cylinderId }) =>
      [cylinderId, await codeOf(`${device.pack.origin}/cylinders/${cylinderId}`)] as const,
  )
  return { job: data, codes: Object.fromEntries(await Promise.all(codes)) }
}

function dataOf(device: Device, known: DeviceJob, at: Wish<JobParams>['at']): JobData {
  const { pack } = device
  const { jobId, number, tape, state } = known
  const system = state.systemId ? device.system(state.systemId) : undefined
  const cylinders = device.cylindersSeenBy(known)
  const used = new Set(usedBy(state))
  const usedKit = new Set(kitUsedBy(state))
  return jobData({
    jobId,
    number,
    tape,
    state,
    beside: besideOf(device, known),
    system,
    candidates: cylinders
      .filter(
        ({ retired, refrigerant }) =>
          !retired &&
          state.refrigerant !== null &&
          (refrigerant === state.refrigerant || refrigerant === null),
      )
      .sort((a, b) => b.balanceMg - a.balanceMg),
    named: cylinders.filter(({ cylinderId }) => used.has(cylinderId)),
    kit: [
      ...device.kitIn(pack.preferences.van),
      ...device.scales,
      ...device.kit.filter(({ kitId }) => usedKit.has(kitId)),
    ],
    places: pack.places,
    choices: state.systemId ? [] : device.systems.slice(0, SYSTEMS_SHOWN + 1),
    // What instruments say comes by way of the server.
    live: [],
    standIns: [],
    bay: inBay(state, system) ? pack.bay : null,
    people: pack.people,
    van: pack.preferences.van,
    shop: pack.shop,
    today: device.today(at),
    loadedAt: at,
    mayWrite: device.mayWrite,
  })
}

/** What the books said of the job when they were taken along; of one that was begun here, what they said of its system. */
function besideOf(device: Device, job: DeviceJob): JobBeside {
  const { pack } = device
  const { jobId, packed, state, booked } = job
  const others = device.aheadBeside(jobId)
  const gains = [...gainedFrom(state)]
  const busy = device.busy(jobId)
  if (packed && state.systemId === booked.systemId)
    return {
      ...packed.beside,
      gains,
      busy: [...new Set([...packed.beside.busy, ...busy])],
      plateWas: plateFound(pack, others, job),
    }
  const past = knownBefore(pack, others, job)
  const machine = machineOf(state)
  return {
    booksBefore: past?.whole ? { massMg: past.balanceMg } : null,
    inBooksMg: past?.balanceMg ?? 0,
    lastCharged: past?.chargedAt ?? null,
    dyedAt: past?.dyedAt ?? null,
    gains,
    busy: [...busy],
    doubts: packed?.beside.doubts ?? [],
    pastRuns: (machine && pack.pastRuns[machine.kitId]) ?? [],
    chargeLags: pack.chargeLags,
    plateWas: plateFound(pack, others, job),
  }
}
