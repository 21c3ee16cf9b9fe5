import { useCallback } from 'react'
import type { EntryBodies, EntryKind } from '#core/tape'
import { useShow } from '~/ui/reader'
import {
  CONDITION_WORDS,
  LEAK_METHOD_WORDS,
  OUTCOME_WORDS,
  PRESSURE_POINT_WORDS,
  STAGE_WORDS,
  TARGET_BASIS_WORDS,
  TEMPERATURE_POINT_WORDS,
  VERDICT_WORDS,
} from '~/wording/en'

type Words = { [K in EntryKind]: (body: EntryBodies[K]) => string }

export const STEP_WORDS: Record<string, string> = {
  'locked-out': 'Power off and locked out',
  'gas-identified': 'Refrigerant identified',
  'purged-hoses': 'Hoses purged, cores out',
  'self-purged': 'Machine self-purged',
  'repair-drier': 'New filter-drier',
  'repair-nitrogen': 'Nitrogen through while brazing',
  'repair-done': 'Repair done',
  'kit-proved': 'Pump, hoses and gauge proved below 500 micron',
  'caps-on': 'Caps on all ports',
  'label-in-panel': 'Label in the panel',
  'parts-back': 'Panels, sensors and insulation back on',
}

export interface Names {
  cylinder: (cylinderId: string) => string | undefined
  system: (systemId: string) => string | undefined
}

const NOBODY_KNOWS: Names = { cylinder: () => undefined, system: () => undefined }

/** An entry as one line of the tape, in the reader's units. @param names of what it is about, where they are known */
export function useEntryWords(
  names: Names = NOBODY_KNOWS,
): (kind: EntryKind, body: EntryBodies[EntryKind]) => string {
  const show = useShow()
  return useCallback(
    (kind, body) => {
      const cylinder = (id: string) => names.cylinder(id) ?? 'a cylinder'
      const mode = (m: 'gross' | 'net') => (m === 'gross' ? 'gross' : 'net, scale zeroed')
      const words: Words = {
        'job-described': ({ title, systemId, refrigerant }) =>
          [
            title && `Job: ${title}`,
            systemId && `System: ${names.system(systemId) ?? 'chosen'}`,
            refrigerant && `Refrigerant: ${refrigerant}`,
          ]
            .filter(Boolean)
            .join(' · ') || 'Described',
        'stage-entered': ({ stage }) => `Stage: ${STAGE_WORDS[stage]}`,
        'cylinder-chosen': ({ cylinderId, use }) =>
          use === 'recover' ? `Recover into ${cylinder(cylinderId)}` : `Charge from ${cylinder(cylinderId)}`,
        'cylinder-released': ({ cylinderId }) => `${cylinder(cylinderId)} released`,
        'run-started': ({ use, cylinderId, weightMg, mode: m, scale }) =>
          `${use === 'recover' ? 'Recovery into' : 'Charge from'} ${cylinder(cylinderId)} started at ${show('weight', weightMg)} ${mode(m)}${scale ? `, scale ${scale}` : ''}`,
        'weight-noted': ({ weightMg }) => `Weight ${show('weight', weightMg)}`,
        'scale-changed': ({ weightMg, mode: m, scale }) =>
          `Other scale${scale ? ` (${scale})` : ''}, reads ${show('weight', weightMg)} ${mode(m)}`,
        'run-ended': ({ weightMg, hoseMg }) =>
          `Run ended at ${show('weight', weightMg)}${hoseMg > 0 ? `, ${show('weight', hoseMg)} left in hoses` : ''}`,
        'recovery-ended': ({ emptied }) =>
          emptied ? 'Recovery ended: at level, and stays there' : 'Recovery ended before it was empty',
        'gas-judged': ({ cylinderId, condition }) =>
          `Gas in ${cylinder(cylinderId)}: ${CONDITION_WORDS[condition]}`,
        'pressure-noted': ({ point, pressurePa }) =>
          `${PRESSURE_POINT_WORDS[point]} ${show('pressure', pressurePa)}`,
        'temperature-noted': ({ point, tempK }) =>
          `${TEMPERATURE_POINT_WORDS[point]} ${show('temperature', tempK)}`,
        'vacuum-noted': ({ pressurePa }) => `Vacuum ${show('vacuum', pressurePa)}`,
        'hold-started': ({ pressurePa }) => `Pump valved off at ${show('vacuum', pressurePa)}`,
        'hold-ended': ({ pressurePa }) => `Hold ended at ${show('vacuum', pressurePa)}`,
        'leak-checked': ({ method, found, text }) =>
          `${LEAK_METHOD_WORDS[method]}: ${found ? 'leak found' : 'none found'}${text ? `, ${text}` : ''}`,
        'oil-noted': ({ direction, volumeMl, text }) =>
          `Oil ${{ out: 'out', parts: 'for replaced parts', in: 'in' }[direction]} ${show('volume', volumeMl)}${text ? `, ${text}` : ''}`,
        'target-set': ({ massMg, toleranceMg, basis }) =>
          `Target ${show('weight', massMg)} ± ${show('weight', toleranceMg)}, from ${TARGET_BASIS_WORDS[basis]}`,
        'step-done': ({ step }) => STEP_WORDS[step] ?? step,
        note: ({ text }) => text,
        'verdict-given': ({ verdict }) =>
          `${OUTCOME_WORDS[verdict.outcome]}: ${VERDICT_WORDS[verdict.code] ?? verdict.code}`,
        'verdict-overruled': ({ reason }) => `Verdict overruled: ${reason}`,
        correction: ({ body: corrected, reason }) =>
          `${corrected === null ? 'Struck an entry' : 'Corrected an entry'}${reason ? `: ${reason}` : ''}`,
        'job-waiting': ({ what }) => `Waits for ${what || 'something'}`,
        'job-resumed': () => 'Goes on',
        'job-closed': () => 'Job closed',
        'job-cancelled': ({ reason }) => `Job cancelled${reason ? `: ${reason}` : ''}`,
        'job-reopened': ({ reason }) => `Job opened again${reason ? `: ${reason}` : ''}`,
      }
      return (words[kind] as (body: EntryBodies[EntryKind]) => string)(body)
    },
    [show, names],
  )
}
