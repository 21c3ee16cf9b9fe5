import type { NextStep, Stage } from '#core/tape'

export const STAGE_WORDS: Record<Stage, string> = {
  prepare: 'Prepare',
  recover: 'Recover',
  repair: 'Repair',
  'leak-test': 'Leak test',
  evacuate: 'Evacuate',
  oil: 'Oil',
  charge: 'Charge',
  verify: 'Check readings',
  close: 'Close',
}

export const NEXT_WORDS: Record<NextStep, string> = {
  'describe-system': 'Say which refrigerant, and which system if you know it',
  'choose-cylinder': 'Choose a cylinder to recover into',
  'start-recovery': 'Put the cylinder on the scale and note its start weight',
  'note-weight': 'Recovery is running: note the weight, watch the limit',
  'end-recovery': 'Self-purge the machine, then end the recovery',
  'check-leaks': 'Look for leaks and note what you found',
  evacuate: 'Evacuate, and note what the vacuum gauge reads',
  'hold-vacuum': 'Valve the pump off and start a hold',
  'watch-hold': 'The vacuum hold is running: note the gauge, at least 10 minutes',
  'set-target': 'Set the target charge',
  'choose-charge-cylinder': 'Choose the cylinder to charge from',
  'start-charge': 'Put the cylinder on the scale and start to charge',
  'charge-on': 'Charging: watch the stop weight',
  'note-readings': 'Run the system and note the check readings',
  'close-job': 'Caps on, label in the panel, then close the job',
  wait: 'Waiting',
  nothing: 'Nothing: this job is finished',
}

/** What the usual order would have you open for the next step. */
export const STAGE_OF_NEXT: Record<NextStep, Stage> = {
  'describe-system': 'prepare',
  'choose-cylinder': 'prepare',
  'start-recovery': 'recover',
  'note-weight': 'recover',
  'end-recovery': 'recover',
  'check-leaks': 'leak-test',
  evacuate: 'evacuate',
  'hold-vacuum': 'evacuate',
  'watch-hold': 'evacuate',
  'set-target': 'charge',
  'choose-charge-cylinder': 'charge',
  'start-charge': 'charge',
  'charge-on': 'charge',
  'note-readings': 'verify',
  'close-job': 'close',
  wait: 'close',
  nothing: 'close',
}
