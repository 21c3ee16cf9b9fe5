import type { ChargingState, SourceKind, WayIn } from '#core/charging'

export const SOURCE_WORDS: Record<SourceKind, string> = {
  'own-gas': 'this job’s own gas, back to where it came from',
  'owners-gas': 'gas of the same owner',
  recovered: 'the shop’s recovered gas',
  virgin: 'virgin gas',
}

export const WAY_IN_WORDS: Record<WayIn, string> = {
  'blend-liquid-always': 'A blend with glide: always drawn as liquid, or its composition shifts.',
  'liquid-into-liquid-side':
    'As liquid into the liquid side, the system in vacuum and standing: the vacuum takes the first part.',
  'small-through-drier': 'A small sealed machine: through the drier’s stub or the high side, slowly.',
  'vehicle-high-side-off':
    'Engine off: liquid into the high side, or both. Check at rest, then 15 %, sniff the cabin’s vents, then the rest.',
  'vehicle-high-voltage':
    'High voltage: through the port that its maker names, the vehicle off and locked. 15 %, sniff the cabin’s vents, then the rest.',
  'never-liquid-into-compressor': 'Never liquid into a compressor, running or not.',
  'one-way-upside-down': 'A one-way cylinder stands upside down for liquid; a frost line shows its level.',
  'liquid-valve': 'From the valve marked liquid, upright: the tube reaches to the bottom.',
  'rest-by-suction':
    'The rest with the system running: liquid metered slowly into suction, at most 0.7 bar (10 psi) above the running pressure, less with a port near the compressor.',
  'not-the-recovery-machine':
    'The recovery machine is no charging pump: pushing liquid backwards breaks its valves.',
}

/** What goes on in a running charge, and what to do. */
export const CHARGING_WORDS: Record<ChargingState['code'], { says: string; helps?: string }> = {
  'too-few': { says: 'Just begun', helps: 'Watch the scale from the first second.' },
  stale: { says: 'Not weighed', helps: 'Look at the scale, and note what it shows.' },
  flowing: { says: 'Flowing' },
  soon: { says: 'Hand on the valve' },
  'close-now': { says: 'Close now' },
  reached: {
    says: 'There: close the cylinder',
    helps: 'Let the hose be swallowed, then note the final weight.',
  },
  over: {
    says: 'More than the target',
    helps: 'Close the cylinder, note the final weight as it is: the excess is taken out again after.',
  },
  stands: {
    says: 'It stands, and the target is not reached',
    helps: 'Pressures have met, the cylinder is cold or nearly empty, or a valve is shut.',
  },
  back: { says: 'The cylinder gains: gas goes back', helps: 'Close it: the system stands above it.' },
}

/** The same onto what is in there, where nothing is to be reached. */
export const TOP_UP_WORDS: Partial<typeof CHARGING_WORDS> = {
  'too-few': { says: 'Just begun', helps: 'A little at a time: close it, let it settle, read.' },
  stands: {
    says: 'It stands',
    helps: 'Pressures have met, or the cylinder is cold or nearly empty. Close it, let it settle, read.',
  },
}

/** Where a vehicle's charge pauses. */
export const PAUSE_WORDS = {
  soon: 'Hand on the valve: 15 % comes',
  closeNow: 'Close now: 15 % is in',
  there: '15 % is in: sniff the cabin’s vents before the rest',
}
