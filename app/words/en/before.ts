import type { AtRestCode } from '#core/identity'

/** What a vessel at rest says. */
export const REST_WORDS: Record<AtRestCode, { says: string; helps: string }> = {
  'rest-sure': {
    says: 'It is what it is said to be',
    helps: 'No other gas that Keg knows has this pressure here.',
  },
  'rest-not-told-apart': {
    says: 'It may be what it is said to be',
    helps:
      'Pressure and temperature cannot tell it from the others: the label, the history, or an identifier can.',
  },
  'rest-above': {
    says: 'More pressure than this gas can have',
    helps:
      'Air in it, another gas, or sun on one side. Shade it, wait until it is at rest, measure again. If it stays, it goes into a cylinder of its own.',
  },
  'rest-below': {
    says: 'Less pressure than this gas has with liquid',
    helps: 'No liquid left in it, which says nothing of what it is; or another gas.',
  },
  'rest-no-liquid': {
    says: 'Above its critical point: there is no liquid',
    helps:
      'Its pressure then follows from how much is in there, and says nothing of what it is. Let it cool and read again, or weigh it.',
  },
  'rest-unnamed': { says: 'These would fit', helps: 'Which one it is, label and history say.' },
  'rest-none': {
    says: 'No gas that Keg knows fits',
    helps: 'A mixture, air, or no liquid in it: nothing goes into a clean cylinder before that is known.',
  },
}

export interface RigGroup {
  step: 'rig-power' | 'rig-class' | 'rig-drier' | 'rig-hoses' | 'rig-scale'
  title: string
  why: string
  /** Left out, it can hurt somebody or spoil a cylinder: that wants a reason. */
  matters: boolean
}

/** The rig, looked over in as many taps. */
export const RIG_CHECK: RigGroup[] = [
  {
    step: 'rig-power',
    title: 'Power locked out, lead earthed and heavy enough',
    why: 'What is opened must not start. A long thin lead is what burns these machines out: the slide rule knows the drop.',
    matters: true,
  },
  {
    step: 'rig-class',
    title: 'Machine rated for this gas',
    why: 'A flammable gas wants a machine made for it, no spark near it, and the room aired.',
    matters: true,
  },
  {
    step: 'rig-drier',
    title: 'Drier fresh, machine purged of its last gas',
    why: 'What the machine kept of another gas goes into this cylinder, and spoils all of it.',
    matters: true,
  },
  {
    step: 'rig-hoses',
    title: 'Seals looked at, gauges at zero open to air',
    why: 'A worn seal draws air once the low side is below zero; a gauge off zero stops you too early or too late.',
    matters: false,
  },
  {
    step: 'rig-scale',
    title: 'Scale checked and free, cover under the machine',
    why: 'A hose that pulls, a display lying on it or a knock is a false weight. The cover keeps the customer’s floor.',
    matters: false,
  },
]

/** How the charge is shut into the outdoor unit. */
export const SHUT_IN_STEPS = [
  'Gauges on both sides. Let it cool for ten minutes, so that the charge is moving.',
  'Close the liquid service valve. Watch the low side fall; the condenser fan must run.',
  'At 0 to 0.2 bar (2 psi) close the suction service valve and switch it off at once, and lock it out.',
  'Note the low side, watch it for ten minutes, note it again: it must stay where it is. If it rises, a valve does not hold: recover instead.',
]
export const SHUT_IN_LIMITS =
  'Only where nothing but the indoor part is opened, its compressor runs and its service valves hold. Not where the liquid side of the outdoor unit is opened, nor with a charge that its condenser cannot hold: lines far beyond what the plate covers. Stop if the head rises towards its switch. Flammable gas: the maker’s way only.'
