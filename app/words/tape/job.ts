import type { JobBodies } from '#core/tape'
import { STAGE_WORDS } from '../en'
import type { Words } from './say'

export const STEP_WORDS = {
  'locked-out': 'Power off and locked out',
  'gas-identified': 'Refrigerant identified',
  'purged-hoses': 'Hoses purged',
  'purged-joint-by-joint': 'Hoses purged joint by joint',
  'compressor-runs': 'Its compressor runs',
  'compressor-stands': 'Its compressor does not run',
  'compressor-burnt': 'The compressor burnt or seized',
  'water-cooled': 'Its condenser is cooled by water',
  'oil-stays': 'The oil is to stay inside',
  'weigh-only': 'Weigh only: the rig is not asked about',
  'check-rig': 'The rig is asked about',
  'rig-hoses': 'Seals looked at, gauges at zero open to air',
  'rig-drier': 'Drier good for this gas, machine purged of its last one',
  'rig-class': 'Machine rated for this class of gas',
  'rig-power': 'Lead heavy enough and earthed',
  'rig-scale': 'Scale checked, nothing touches it, covers laid',
  'purge-begun': 'The machine begins to purge itself',
  'hose-drained': 'Liquid hose drained back into the cylinder',
  'valves-shut': 'Valves shut, ports capped',
  'self-purged': 'Machine self-purged',
  'unit-taken-away': 'Unit taken away: this job ends with the recovery',
  'repair-opened': 'Circuit opened',
  'repair-drier': 'New filter-drier',
  'repair-nitrogen': 'Nitrogen through while brazing',
  'braze-cores-out': 'Valve cores out, caps off, before any heat',
  'braze-swept': 'Flammable gas: swept with nitrogen',
  'braze-evacuated': 'then evacuated',
  'braze-swept-again': 'swept once more',
  'braze-sniffed': 'and the detector says nothing: now the flame',
  'compressor-mounts': 'Mounts fitted before brazing',
  'compressor-wiring': 'Wired by the new part’s own diagram, not by a photo of the old',
  'compressor-contactor': 'Contactor looked at',
  'repair-done': 'Repair done',
  'kit-proved': 'Pump, hoses and gauge proved below 500 micron',
  'valves-opened': 'Service valves open again: the charge is back in the whole system',
  'cabin-sniffed': 'Cabin’s vents sniffed: nothing',
  'vehicle-at-rest': 'At rest: low and high side read the same, near saturation',
  'hoses-high-first': 'High side closed and off first, then the low hose drawn empty',
  'retrofit-drier': 'New drier for the new gas',
  'retrofit-seals': 'Seals renewed that the new gas does not bear',
  'retrofit-oil': 'Oil changed and flushed as the maker asks',
  'retrofit-superheat': 'Superheat set anew',
  'retrofit-label': 'New plate label over the old one',
  'caps-on': 'Caps on all ports',
  'label-in-panel': 'Label in the panel',
  'parts-back': 'Panels, sensors and insulation back on',
}
export type Step = keyof typeof STEP_WORDS

export const job: Words<JobBodies> = {
  'job-described': ({ title, systemId, refrigerant }, { system }) =>
    [
      title && `Job: ${title}`,
      systemId && `System: ${system(systemId)}`,
      refrigerant && `Refrigerant: ${refrigerant}`,
    ]
      .filter(Boolean)
      .join(' · ') || 'Described',
  'plate-noted': ({ massMg, text }, { show }) =>
    `Plate: ${show('weight', massMg)}${text ? `, printed “${text}”` : ''}`,
  'stage-entered': ({ stage }) => `Stage: ${STAGE_WORDS[stage]}`,
  'step-done': ({ step }) => (Object.hasOwn(STEP_WORDS, step) ? STEP_WORDS[step as Step] : step),
  'step-skipped': ({ step, reason }) =>
    `Left out: ${Object.hasOwn(STEP_WORDS, step) ? STEP_WORDS[step as Step] : step}, because ${reason}`,
  note: ({ text }) => text,
  'customer-signed': ({ name }) => `Signed by ${name || 'the customer'}`,
  'job-waiting': ({ what }) => `Waits for ${what || 'something'}`,
  'job-resumed': () => 'Goes on',
  'job-closed': ({ reason }) => `Job closed${reason ? ` with open points: ${reason}` : ''}`,
  'job-cancelled': ({ reason }) => `Job cancelled${reason ? `: ${reason}` : ''}`,
  'job-reopened': ({ reason }) => `Job opened again${reason ? `: ${reason}` : ''}`,
}
