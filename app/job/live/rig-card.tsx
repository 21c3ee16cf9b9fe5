import { useFetcher } from 'react-router'
import type { StandIn } from '#db'
import { useRefresh } from '~/device/news/changes'
import { useJob } from '../field/job-context'

/** What a stand-in says of itself: how its knobs stand. */
interface RigState {
  /** A service station: its programme is its only knob. */
  station?: boolean
  busy?: boolean
  scenario?: string
  mode?: string
  speed?: number
  ended?: boolean
  controls?: Record<string, unknown>
}

const SPEEDS = [1, 5, 10, 30, 60]

interface Knob {
  name: string
  words: string
  choices: { value: unknown; words: string }[]
}
const onOff = (name: string, words: string, [on, off]: [string, string]): Knob => ({
  name,
  words,
  choices: [
    { value: true, words: on },
    { value: false, words: off },
  ],
})

/** What hands can do on a simulated rig. A bath is set by its temperature. */
const KNOBS: Record<'machine' | 'pump' | 'cylinder', Knob[]> = {
  machine: [
    {
      name: 'machine',
      words: 'Machine',
      choices: [
        { value: 'off', words: 'off' },
        { value: 'run', words: 'runs' },
        { value: 'purge', words: 'purges' },
      ],
    },
    {
      name: 'valve',
      words: 'System valve',
      choices: [
        { value: 'closed', words: 'shut' },
        { value: 'vapour', words: 'vapour' },
        { value: 'liquid', words: 'liquid' },
      ],
    },
    onOff('cylinderOpen', 'Cylinder valve', ['open', 'shut']),
    onOff('fan', 'Fans', ['on', 'off']),
    onOff('ice', 'Ice on the cylinder', ['on', 'none']),
    onOff('coreIn', 'Valve core', ['in', 'out']),
  ],
  pump: [
    onOff('pump', 'Pump', ['on', 'off']),
    {
      name: 'valve',
      words: 'Pump valve',
      choices: [
        { value: 'vapour', words: 'open' },
        { value: 'closed', words: 'shut' },
      ],
    },
    onOff('coreIn', 'Valve core', ['in', 'out']),
  ],
  cylinder: [
    {
      name: 'valve',
      words: 'Cylinder port',
      choices: [
        { value: 'closed', words: 'shut' },
        { value: 'vapour', words: 'vapour' },
        { value: 'liquid', words: 'liquid' },
      ],
    },
    onOff('fan', 'Fans', ['on', 'off']),
    onOff('coreIn', 'Valve core', ['in', 'out']),
  ],
}

/** The knobs of the stand-ins on this job; a real instrument has none, and its page loads nothing anew for them. */
export function RigCards() {
  const { data } = useJob()
  return data.standIns.length > 0 ? <Cards rigs={data.standIns} /> : null
}

function Cards({ rigs }: { rigs: StandIn[] }) {
  useRefresh((change) => change.kind === 'device' && rigs.some((each) => each.deviceId === change.id))
  return rigs.map((rig) => <RigCard key={rig.deviceId} rig={rig} />)
}

function RigCard({ rig }: { rig: StandIn }) {
  const { data } = useJob()
  const fetcher = useFetcher<{ error?: string }>()
  const state = (rig.state ?? {}) as RigState
  const line = state.controls?.line
  const knobs = state.station ? [] : line === 'pump' || line === 'cylinder' ? KNOBS[line] : KNOBS.machine
  // What was pressed shows at once; the stand-in says the same a moment later.
  const pressed = fetcher.formData
    ? (JSON.parse(String(fetcher.formData.get('command'))) as { set?: object; speed?: number })
    : {}
  const controls: Record<string, unknown> = { ...state.controls, ...pressed.set }
  const speed = pressed.speed ?? state.speed ?? 1
  const send = (command: object) =>
    void fetcher.submit(
      { command: JSON.stringify(command) },
      { method: 'post', action: `/kit/devices/${rig.deviceId}/command` },
    )
  const disabled = !data.mayWrite
  return (
    <details className="sheet rig-card">
      <summary>
        <strong>Stand-in: {rig.name}</strong> <span className="tag">simulated</span>{' '}
        <span className="quiet">
          {state.station ? (state.busy ? 'at a programme' : 'ready') : (state.mode ?? 'not heard yet')},{' '}
          {speed}×
        </span>
      </summary>
      <p className="quiet mb-0">
        No real gas: a made-up plant, plausible and not measured. {state.scenario}{' '}
        {state.mode && `Now: ${state.mode}.`}
      </p>
      <div className="rig-knobs">
        {knobs.map(({ name, words, choices }) => (
          <fieldset key={name} disabled={disabled}>
            <legend>{words}</legend>
            <div className="rig-choices">
              {choices.map(({ value, words: choice }) => (
                <button
                  key={choice}
                  type="button"
                  aria-pressed={controls[name] === value}
                  onClick={() => send({ set: { [name]: value } })}
                >
                  {choice}
                </button>
              ))}
            </div>
          </fieldset>
        ))}
        <fieldset disabled={disabled}>
          <legend>Speed</legend>
          <div className="rig-choices">
            {SPEEDS.map((each) => (
              <button
                key={each}
                type="button"
                aria-pressed={speed === each}
                onClick={() => send({ speed: each })}
              >
                {each}×
              </button>
            ))}
          </div>
        </fieldset>
      </div>
      {!state.station && (
        <div className="row-of">
          <button
            type="button"
            className="btn btn-outline-primary"
            disabled={disabled}
            onClick={() => send({ restart: true })}
          >
            Start over
          </button>
          {state.ended && <span className="quiet">It has come to its end.</span>}
        </div>
      )}
      {fetcher.data?.error && (
        <p className="field-error mb-0" role="alert">
          {fetcher.data.error}
        </p>
      )}
    </details>
  )
}
