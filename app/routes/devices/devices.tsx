import { data, Form as RouterForm, Link, useNavigation } from 'react-router'
import { Button } from 'react-bootstrap'
import { CHANNEL_FACTS, clockOffMs } from '#core/samples'
import { type DeviceRow, devices, inShop, kitThatSpeaks } from '#db'
import { ownText, typedIn } from '~/base/form/read.server'
import { useRefresh } from '~/device/news/changes'
import { openPage } from '~/device/page/page'
import { sendForm } from '~/device/page/send-form'
import { manager, signedIn } from '~/base/session/signed-in.server'
import { Field } from '~/base/ui/field'
import { clockTime, dayAndTime, duration } from '~/base/ui/time'
import { CHANNEL_WORDS, SAMPLE_PROBLEM_WORDS } from '~/words/en'
import type { Route } from './+types/devices'
import { letIn, makeCode, move, rename, type Result, revoke } from '~/pages/devices/acts.server'

const ACTS = { code: makeCode, rename, move, revoke, letIn }

export function meta() {
  return [{ title: 'Live instruments · Keg' }]
}

export async function loader({ context }: Route.LoaderArgs) {
  const { shop, person } = signedIn(context)
  const [all, kit] = await inShop(shop.shopId, (tx) => Promise.all([devices(tx), kitThatSpeaks(tx)]))
  return {
    devices: all,
    kit: kit.map(({ kitId, label, kind, keepsAt }) => ({ kitId, label, kind, keepsAt })),
    timeZone: shop.timeZone,
    manages: person.role === 'manager',
  }
}

export const clientLoader = openPage<Awaited<ReturnType<typeof loader>>>()

export async function action({ request, context }: Route.ActionArgs) {
  const { shop, person } = manager(context)
  const typed = await typedIn(request)
  const name = ownText(typed, 'act')
  const act = Object.hasOwn(ACTS, name) ? ACTS[name as keyof typeof ACTS] : undefined
  if (!act) throw new Response('That form is not known here: reload the page.', { status: 400 })
  const result: Result = await act({ typed, shopId: shop.shopId, userId: person.userId })
  return 'errors' in result ? data(result, { status: 400 }) : result
}

export async function clientAction(sent: Route.ClientActionArgs) {
  return sendForm(sent)
}

/** Devices that post what instruments say: paired, named, moved to other kit, revoked. */
export default function Devices({ loaderData, actionData }: Route.ComponentProps) {
  const { devices: all, manages, timeZone } = loaderData
  const busy = useNavigation().state !== 'idle'
  useRefresh((change) => change.kind === 'device')
  const done = actionData && 'done' in actionData ? actionData : undefined
  const refused = actionData && 'errors' in actionData ? actionData : undefined
  const there = all.filter((each) => !each.revokedAt)
  const held = there.filter((each) => each.heldAt).length
  const gone = all.filter((each) => each.revokedAt)
  return (
    <>
      <div className="page-head">
        <h1>Live instruments</h1>
        <span className="quiet">
          {there.length - held} in force{held > 0 && `, ${held} kept out`}
        </span>
        <div className="actions">
          <Link className="btn btn-outline-secondary" to="/kit">
            Kit
          </Link>
        </div>
      </div>
      <div className="stack device-page">
        {done && (
          <div className="sheet" role="status">
            {done.code ? (
              <span>
                Pairing code <strong className="pairing-code digits">{done.code}</strong>, good until{' '}
                {clockTime(done.until!, timeZone)}. {done.done}
              </span>
            ) : (
              done.done
            )}
          </div>
        )}
        {manages && (
          <RouterForm method="post" className="sheet stack">
            <h2 className="h3 mb-0">Pair a device</h2>
            <p className="mb-0">
              A gateway trades a one-time code for its token, and posts what scales, gauges and clamps say
              from then on. How to write one: <code>docs/instruments.md</code>.
            </p>
            <div>
              <Button type="submit" name="act" value="code" disabled={busy}>
                Make a pairing code
              </Button>
            </div>
          </RouterForm>
        )}
        {there.length === 0 && (
          <p className="sheet mb-0">
            No device yet.{' '}
            {manages ? 'Make a pairing code, and type it into the gateway.' : 'A manager pairs one here.'}{' '}
            Until then everything is typed, and works just as well.
          </p>
        )}
        {there.map((device) => (
          <Device
            key={device.deviceId}
            device={device}
            data={loaderData}
            refused={refused?.typed.deviceId === device.deviceId ? refused : undefined}
            busy={busy}
          />
        ))}
        {gone.length > 0 && (
          <details className="sheet">
            <summary>Revoked ({gone.length})</summary>
            <ul className="mb-0">
              {gone.map((each) => (
                <li key={each.deviceId}>
                  {each.name}, revoked {dayAndTime(each.revokedAt!, timeZone)}
                </li>
              ))}
            </ul>
          </details>
        )}
      </div>
    </>
  )
}

interface DeviceProps {
  device: DeviceRow
  data: Route.ComponentProps['loaderData']
  refused: { errors: Record<string, string>; typed: Record<string, string> } | undefined
  busy: boolean
}

function Device({ device, data: { kit, timeZone, manages }, refused, busy }: DeviceProps) {
  const offMs = clockOffMs(device.arrivals)
  const { deviceId, name, standIn, heardAt, refused: count, refusedWhy, refusedAt, channels } = device
  return (
    <section className="sheet stack device" aria-label={name}>
      <div className="row-of">
        <h2 className="h3 mb-0">{name}</h2>
        {standIn && <span className="tag">stand-in, simulated</span>}
        <span className="quiet">
          {heardAt ? `last heard ${dayAndTime(heardAt, timeZone)}` : 'not heard yet'}, paired by{' '}
          {device.pairedBy}
        </span>
      </div>
      {device.heldAt && (
        <div className="row-of">
          <p className="field-error mb-0">
            Kept out since a backup was put back on {dayAndTime(device.heldAt, timeZone)}: it may have been
            revoked after that backup was made.{' '}
            {manages ? 'Let it in, or revoke it below.' : 'A manager lets it in, or revokes it.'}
          </p>
          {manages && (
            <RouterForm method="post">
              <input type="hidden" name="act" value="letIn" />
              <input type="hidden" name="deviceId" value={deviceId} />
              <Button type="submit" disabled={busy}>
                Let it in
              </Button>
            </RouterForm>
          )}
        </div>
      )}
      {count > 0 && (
        <p className="field-error mb-0">
          {count} {count === 1 ? 'sample was' : 'samples were'} not taken; the last{' '}
          {dayAndTime(refusedAt!, timeZone)}:{' '}
          {(SAMPLE_PROBLEM_WORDS as Record<string, string>)[refusedWhy] ?? refusedWhy}
        </p>
      )}
      {offMs !== undefined && (
        <p className="field-error mb-0">
          Its clock is {duration(Math.abs(offMs) / 1_000)} {offMs < 0 ? 'behind' : 'ahead'}: set it. Until
          then what it says stands at the wrong time on the strip.
        </p>
      )}
      <ul className="channels">
        {channels.map(({ channel, kitId, kit: label }) => {
          const may = kit.filter((each) => CHANNEL_FACTS[channel].kit.includes(each.kind))
          return (
            <li key={channel}>
              <strong>{CHANNEL_WORDS[channel]}</strong>
              {manages ? (
                <RouterForm method="post" className="row-of">
                  <input type="hidden" name="act" value="move" />
                  <input type="hidden" name="deviceId" value={deviceId} />
                  <input type="hidden" name="channel" value={channel} />
                  <select
                    className="form-select"
                    name="kitId"
                    aria-label={`${name}, ${CHANNEL_WORDS[channel]} belongs to`}
                    defaultValue={kitId ?? ''}
                    key={kitId ?? ''}
                  >
                    <option value="">no piece of kit</option>
                    {may.map((each) => (
                      <option key={each.kitId} value={each.kitId}>
                        {each.label}
                        {each.keepsAt && `, ${each.keepsAt}`}
                      </option>
                    ))}
                  </select>
                  <Button type="submit" variant="outline-secondary" disabled={busy}>
                    Move
                  </Button>
                  {refused?.typed.channel === channel && refused.errors.kitId && (
                    <span className="field-error">{refused.errors.kitId}</span>
                  )}
                </RouterForm>
              ) : (
                <span>{label ?? 'no piece of kit'}</span>
              )}
            </li>
          )
        })}
      </ul>
      {manages && (
        <details>
          <summary>Rename or revoke</summary>
          <RouterForm method="post" className="stack">
            <input type="hidden" name="deviceId" value={deviceId} />
            <Field
              name="name"
              label="Name"
              value={refused?.typed.name ?? name}
              error={refused?.errors.name}
              maxLength={80}
            />
            <div className="row-of">
              <Button type="submit" name="act" value="rename" variant="outline-primary" disabled={busy}>
                Rename
              </Button>
              <Button type="submit" name="act" value="revoke" variant="outline-danger" disabled={busy}>
                Revoke: let it in no more
              </Button>
            </div>
          </RouterForm>
        </details>
      )}
    </section>
  )
}
